<?php

declare(strict_types=1);

namespace Fasti\Join\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

/** The questions that a join answers, in the steward's words. */
final class JoinPurpose extends Property
{
    public const NAME = 'purpose';

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
        return 'purpose';
    }

    public function editor(): Editor
    {
        return Editor::Long;
    }

    public function blank(): string
    {
        return 'Which questions does it answer?';
    }
}
