<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;

/** One place in a schema while it is put together from the paths of members. */
final class SchemaNode
{
    public ?Column $column = null;
    public string $text = '';
    /** @var array<array-key, self> */
    public array $members = [];
    public ?self $items = null;
    public ?self $values = null;

    /** @param list<string> $steps names, `[]` and `{}`, from here on */
    public function at(array $steps): self
    {
        $place = $this;
        foreach ($steps as $step) {
            $place = match ($step) {
                '[]' => $place->items ??= new self(),
                '{}' => $place->values ??= new self(),
                default => $place->members[$step] ??= new self(),
            };
        }

        return $place;
    }
}
