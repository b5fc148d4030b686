<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Text\Property;

final class TermSynonyms extends Property
{
    public function topic(): string
    {
        return 'term';
    }

    public function name(): string
    {
        return 'synonyms';
    }

    public function label(): string
    {
        return 'other words for it';
    }

    public function column(): string
    {
        return 'synonyms';
    }

    public function most(): int
    {
        return 2000;
    }

    public function blank(): string
    {
        return 'other words, with commas between';
    }
}
