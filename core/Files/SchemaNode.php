<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\MemberPath;

/** One place in a schema while it is put together from the paths of members. */
final class SchemaNode
{
    public ?Column $column = null;
    public string $text = '';
    /** @var array<array-key, self> */
    public array $members = [];
    public ?self $items = null;
    public ?self $values = null;

    public function at(MemberPath $path): self
    {
        $place = $this;
        foreach ($path->steps as $step) {
            $place = match ($step) {
                MemberPath::ITEMS => $place->items ??= new self(),
                MemberPath::VALUES => $place->values ??= new self(),
                default => $place->members[$step] ??= new self(),
            };
        }

        return $place;
    }
}
