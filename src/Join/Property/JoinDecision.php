<?php

declare(strict_types=1);

namespace Fasti\Join\Property;

use Fasti\Register\JoinKind;
use Fasti\Text\Editor;
use Fasti\Text\Property;

/** Whether a join that the database does not enforce holds: a steward takes it, or dismisses it. */
final class JoinDecision extends Property
{
    public const NAME = 'decision';
    public const DISMISSED = 'dismissed';

    public function topic(): string
    {
        return 'join';
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return 'decision';
    }

    public function most(): int
    {
        return 12;
    }

    public function column(): string
    {
        return 'stated';
    }

    public function editor(): Editor
    {
        return Editor::Choice;
    }

    public function choices(): array
    {
        return ['' => 'open', JoinKind::Documented->value => 'taken', self::DISMISSED => 'dismissed'];
    }
}
