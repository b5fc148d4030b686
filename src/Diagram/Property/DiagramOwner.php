<?php

declare(strict_types=1);

namespace Fasti\Diagram\Property;

use Fasti\Account\AccountStore;
use Fasti\Text\Editor;
use Fasti\Text\Property;

final class DiagramOwner extends Property
{
    public function topic(): string
    {
        return 'diagram';
    }

    public function name(): string
    {
        return 'owner';
    }

    public function label(): string
    {
        return 'owner';
    }

    public function column(): string
    {
        return 'owner_id';
    }

    public function most(): int
    {
        return 10;
    }

    public function __construct(private readonly AccountStore $accounts)
    {
    }

    public function editor(): Editor
    {
        return Editor::Choice;
    }

    public function choices(): array
    {
        return $this->accounts->open();
    }
}
