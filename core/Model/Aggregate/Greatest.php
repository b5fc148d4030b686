<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

final class Greatest extends Outermost
{
    public function name(): string
    {
        return 'greatest';
    }

    public function rank(): int
    {
        return 60;
    }

    protected function function(): string
    {
        return 'MAX';
    }

    public function namedBy(): array
    {
        return ['greatest', 'max', 'maximum', 'highest', 'last', 'latest', 'peak'];
    }
}
