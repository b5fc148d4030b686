<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What a register says of the tables that are taken into a design. */
final readonly class TakenWords
{
    /** @param array<string, array{name?: string, grain?: string, meaning?: string, fields?: array<string, string>}> $texts by key of a place */
    public function __construct(public string $name = '', public string $purpose = '', public array $texts = [])
    {
    }

    public function thing(string $place): string
    {
        return $this->texts[$place]['name'] ?? '';
    }

    /** @return array{name?: string, grain?: string, meaning?: string, fields?: array<string, string>} */
    public function texts(string $place): array
    {
        return $this->texts[$place] ?? [];
    }
}
