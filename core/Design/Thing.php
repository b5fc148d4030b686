<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Trigger;

/** Something of which there are several, and which people speak about: a table later. */
final readonly class Thing
{
    use \Fasti\Core\Catalog\With;

    /**
     * @param string           $name       in the singular, as people say it
     * @param string           $grain      what one row stands for, without "one row per"
     * @param list<Attribute>  $attributes
     * @param list<Identifier> $keys       the first is the one that a natural key is made of
     * @param list<Lookup>     $lookups
     * @param list<Always>     $conditions
     * @param list<Dependency> $dependencies
     * @param list<Trigger>    $triggers
     * @param ?string          $kindOf     the thing of which it is a kind
     * @param ?string          $keyed      number, uuid, natural or none, where it is decided otherwise than for the design
     * @param ?string          $keyName    the name of the constraint
     * @param ?string          $table      its name in the database, where that is not worked out
     * @param string           $from       the entry it was taken from: `fieldwork.instrument`
     */
    public function __construct(
        public string $name,
        public string $grain = '',
        public string $meaning = '',
        public array $attributes = [],
        public array $keys = [],
        public array $lookups = [],
        public array $conditions = [],
        public array $dependencies = [],
        public array $triggers = [],
        public ?string $kindOf = null,
        public ?string $keyed = null,
        public ?string $keyName = null,
        public bool $history = false,
        public bool $period = false,
        public ?string $table = null,
        public string $schema = '',
        public ?string $stored = null,
        public ?string $sorted = null,
        public string $from = '',
        public int $line = 0,
    ) {
    }

    public function attribute(string $name): ?Attribute
    {
        $key = Names::key($name);
        foreach ($this->attributes as $attribute) {
            if (Names::key($attribute->name) === $key) {
                return $attribute;
            }
        }

        return null;
    }
}
