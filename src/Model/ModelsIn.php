<?php

declare(strict_types=1);

namespace Fasti\Model;

/** The shared models that an entry stands in, and what of them its fields make. */
final readonly class ModelsIn
{
    /**
     * @param array<int, string>                                      $models
     * @param array<int, list<array{model: int, name: string, words: string}>> $made by field
     */
    public function __construct(public array $models, public array $made)
    {
    }
}
