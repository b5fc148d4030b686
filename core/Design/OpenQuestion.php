<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What must be asked of the people who know the work, with their answer. */
final readonly class OpenQuestion
{
    /** @param list<string> $of things that it is about */
    public function __construct(public string $text, public array $of = [], public string $answer = '', public string $by = '', public int $line = 0)
    {
    }
}
