<?php

declare(strict_types=1);

namespace Fasti\Tests\Core;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;

/** Tables made up for tests. */
final class Made
{
    /**
     * A table `name` with a numbered `id`, the given columns, and a foreign key for each "column → table".
     *
     * @param array<string, string> $columns name → type; a `?` at the end of the type makes the column nullable
     * @param array<string, string> $refers  column → table, whose `id` it refers to
     */
    public static function table(string $name, array $columns = [], array $refers = [], string $comment = ''): Table
    {
        $made = [new Column('id', 'int(10) unsigned', false, autoNumbered: true)];
        foreach ($columns as $column => $type) {
            $made[] = new Column($column, rtrim($type, '?'), str_ends_with($type, '?'));
        }
        $keys = [];
        foreach ($refers as $column => $to) {
            $keys[] = new ForeignKey($name.'_'.$column, [$column], new Reference('main', $to, ['id']));
        }

        return new Table('main', $name, TableType::Table, $comment, $made, new Key(null, ['id']), foreignKeys: $keys);
    }

    public static function catalog(Table ...$tables): Catalog
    {
        return new Catalog('mariadb', '10.11', array_values($tables));
    }

    /** A table with at least one of everything a catalog can hold. */
    public static function everything(): Table
    {
        return new Table(
            'main', 'Odd "name" `with` ünïcode', TableType::Table, 'A comment',
            [
                new Column('id', 'bigint(20) unsigned', false, null, '', true),
                new Column('kind', "enum('a','it''s')", false, "'a'", 'of what kind', false, null, null, 'latin1', 'latin1_swedish_ci'),
                new Column('twice', 'int(11)', true, null, '', false, new Generated('`id` * 2', true)),
                new Column('changed', 'timestamp', false, 'current_timestamp()', '', false, null, 'current_timestamp()'),
            ],
            new Key(null, ['id']),
            [new Key('u', ['kind', 'twice'])],
            [new ForeignKey('fk', ['twice', 'kind'], new Reference('other', 't', ['a', 'b']), 'CASCADE', 'SET NULL')],
            [new Index('u', [new IndexPart('kind', 10, true), new IndexPart('twice')], true, 'btree', 'why')],
            [new CheckConstraint('c', '`id` > 0', 'id')],
            [new Trigger('tr', 'BEFORE', 'INSERT', 'SET NEW.kind = 1')],
            12, 16384, null, 'InnoDB', 'utf8mb4_unicode_ci',
        );
    }

    /**
     * Any object by some of what it is made of.
     *
     * @template T of object
     *
     * @param class-string<T>         $class
     * @param array<array-key, mixed> $facts by name
     *
     * @return T
     */
    public static function with(string $class, array $facts): object
    {
        return (new \ReflectionClass($class))->newInstanceArgs($facts);
    }
}
