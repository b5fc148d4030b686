<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\WhenSet;

/** An entry as it plays in a model: as a fact, as a dimension, or as a link between others. One entry may have several roles. */
final readonly class Role
{
    /**
     * @param string          $like       another role of the same dimension, whose key, label and attributes are those of this one, too; '' for none
     * @param list<string>    $key        fields that tell its rows apart
     * @param string          $label      the attribute by which people know a row; '' for none
     * @param list<Attribute> $attributes
     */
    public function __construct(
        public string $name,
        public RoleKind $kind,
        public Place $entry,
        #[WhenSet]
        public string $like = '',
        #[WhenSet]
        public string $meaning = '',
        #[WhenSet]
        public string $grain = '',
        #[ListOf('string')]
        public array $key = [],
        #[WhenSet]
        public string $label = '',
        #[ListOf(Attribute::class), WhenSet]
        public array $attributes = [],
    ) {
        if ('' === trim($name)) {
            throw new \InvalidArgumentException('A role needs a name.');
        }
    }

    public function attribute(string $name): ?Attribute
    {
        foreach ($this->attributes as $attribute) {
            if ($attribute->name === $name) {
                return $attribute;
            }
        }

        return null;
    }
}
