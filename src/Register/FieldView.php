<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Column;

/** A field as pages show it. */
final readonly class FieldView
{
    /**
     * @param list<string>                                               $words   required, unique, default …
     * @param list<array{entry: int, title: string, name: string, counts: bool}> $leadsTo entries that a join from this field leads to
     */
    public function __construct(
        public int $id,
        public string $name,
        public string $businessName,
        public string $meaning,
        public Column $column,
        public string $typeWords,
        public array $words,
        public bool $primary,
        public bool $gone,
        public array $leadsTo,
        public string $personal = '',
    ) {
    }

    public function title(): string
    {
        return '' === $this->businessName ? $this->name : $this->businessName;
    }
}
