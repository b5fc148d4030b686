<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

final class Least extends Outermost
{
    public function name(): string
    {
        return 'least';
    }

    public function rank(): int
    {
        return 50;
    }

    protected function function(): string
    {
        return 'MIN';
    }

    public function namedBy(): array
    {
        return ['least', 'min', 'minimum', 'lowest', 'first', 'earliest'];
    }
}
