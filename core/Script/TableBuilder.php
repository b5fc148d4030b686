<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;

/**
 * A table while its script is still being read: later statements may add to it.
 *
 * @phpstan-type Col array{name: string, type: string, nullable: bool, default: ?string, comment: string, auto: bool, generated: ?Generated, onUpdate: ?string, charset: ?string, collation: ?string, base: ?string}
 * @phpstan-type Far array{name: ?string, columns: non-empty-list<string>, schema: ?string, table: string, far: list<string>, onDelete: string, onUpdate: string}
 */
final class TableBuilder
{
    /** @var array<string, Col> */
    public array $columns = [];
    public ?Key $primary = null;
    /** @var list<Key> */
    public array $unique = [];
    /** @var list<Far> */
    public array $foreign = [];
    /** @var list<Index> */
    public array $indexes = [];
    /** @var list<CheckConstraint> */
    public array $checks = [];
    /** @var list<Trigger> */
    public array $triggers = [];
    public string $comment = '';
    public ?string $definition = null;
    public ?string $storage = null;
    public ?string $collation = null;
    /** @var list<string> */
    public array $traits = [];
    public ?string $partitionKey = null;
    public int $partitions = 0;
    public bool $secured = false;
    public bool $virtual = false;
    public bool $withoutRowid = false;
    /** @var list<string> */
    public array $policies = [];
    /** In SQLite a primary key may hold nothing, unless it says otherwise. */
    public bool $keyMayBeEmpty = false;
    /** @var list<string> names that a view gives to its columns */
    public array $named = [];

    public function __construct(public string $schema, public string $name, public TableType $kind)
    {
    }

    public function add(CheckConstraint|Index|Key $what): void
    {
        match (true) {
            $what instanceof CheckConstraint => $this->checks[] = $what,
            $what instanceof Index => $this->indexes[] = $what,
            default => $this->unique[] = $what,
        };
    }

    /** @param callable(Far): list<string> $primaryOf the key that a reference without columns means */
    public function table(callable $primaryOf): Table
    {
        $byName = static fn (ForeignKey|Index|Key|Trigger $a, ForeignKey|Index|Key|Trigger $b): int => strcmp($a->name ?? '', $b->name ?? '');
        $foreign = [];
        foreach ($this->foreign as $key) {
            $far = [] === $key['far'] ? $primaryOf($key) : $key['far'];
            if ([] !== $far && \count($far) === \count($key['columns'])) {
                $foreign[] = new ForeignKey($key['name'], $key['columns'], new Reference($key['schema'] ?? $this->schema, $key['table'], $far), $key['onDelete'], $key['onUpdate']);
            }
        }
        usort($foreign, $byName);
        usort($this->indexes, $byName);
        usort($this->unique, $byName);
        usort($this->triggers, $byName);
        if ($this->kind->isView()) {
            // What else they are follows from the query, once all tables are known.
            $this->columns = array_combine($this->named, array_map(Script::unknownColumn(...), $this->named));
        }
        $primary = $this->keyMayBeEmpty ? [] : $this->primary->columns ?? [];

        return new Table(
            $this->schema,
            $this->name,
            $this->kind,
            $this->comment,
            array_map(fn (array $c): Column => new Column($c['name'], $c['type'], $c['nullable'] && !\in_array($c['name'], $primary, true), $c['default'], $c['comment'], $c['auto'], $c['generated'], $c['onUpdate'], $c['charset'], $c['collation'] === $this->collation ? null : $c['collation'], $c['base']), array_values($this->columns)),
            $this->primary,
            $this->unique,
            $foreign,
            $this->indexes,
            $this->checks,
            $this->triggers,
            null,
            null,
            $this->definition,
            $this->storage,
            $this->collation,
            $this->traits,
            virtual: $this->virtual,
        );
    }
}
