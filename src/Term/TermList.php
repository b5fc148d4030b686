<?php

declare(strict_types=1);

namespace Fasti\Term;

use Fasti\Register\RegisterList;

final readonly class TermList implements RegisterList
{
    public function __construct(private Terms $terms)
    {
    }

    public function name(): string
    {
        return 'Glossary';
    }

    public function route(): string
    {
        return 'terms';
    }

    public function count(): int
    {
        return $this->terms->count();
    }

    public function place(): int
    {
        return 62;
    }
}
