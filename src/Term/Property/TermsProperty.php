<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Term\Terms;
use Fasti\Text\Property;

/** The terms of the glossary that something belongs to. */
abstract class TermsProperty extends Property
{
    public function __construct(private readonly Terms $terms)
    {
    }

    public function name(): string
    {
        return 'terms';
    }

    public function label(): string
    {
        return 'terms';
    }

    public function most(): int
    {
        return 1000;
    }

    public function blank(): string
    {
        return 'terms of the glossary, with commas between';
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }

    public function check(string $value, int $id): void
    {
        $this->terms->checkNames($value, 0);
    }
}
