<?php

declare(strict_types=1);

namespace Fasti\CodeList;

/** The code lists that fields of an entry use. */
final readonly class EntryCodes
{
    /** @param array<int, array{name: string, id: ?int, labels: array<array-key, string>, more: bool}> $lists by field; id null for one that ships with Fasti */
    public function __construct(public array $lists)
    {
    }

    /** @return array{name: string, id: ?int, labels: array<array-key, string>, more: bool}|null */
    public function of(int $field): ?array
    {
        return $this->lists[$field] ?? null;
    }
}
