<?php

declare(strict_types=1);

namespace Fasti\Model;

/** What the fields of an entry make of shared models. */
final readonly class ModelsIn
{
    /** @param array<int, list<array{model: int, name: string, words: string}>> $made by field */
    public function __construct(public array $made)
    {
    }
}
