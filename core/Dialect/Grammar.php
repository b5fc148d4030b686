<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;

/**
 * How scripts of a dialect are written, and what the engine makes of what they leave out. As it stands here it is that of
 * the standard; a dialect overrides what it does otherwise.
 */
class Grammar
{
    /** The engine that a catalog read with it is of. */
    public string $engine = 'sql';
    public string $label = 'standard SQL';
    /** The name of the family of dialects that share signs. */
    public string $family = '';
    /** The schema of objects that say none. */
    public string $defaultSchema = '';

    public readonly Signs $signs;
    public readonly QueryRules $queries;
    public readonly StructureRules $structure;
    public readonly CatalogRules $catalog;

    public function __construct()
    {
        $this->signs = new Signs();
        $this->queries = new QueryRules();
        $this->structure = new StructureRules();
        $this->catalog = new CatalogRules();
    }

    /** How expressions get their types; the standard's ways are those of no engine in particular. */
    public function typing(): Typing
    {
        return new Typing();
    }

    /**
     * The form in which the engine's catalog writes a type.
     *
     * @param string $base    the words before the parenthesis: `double precision`
     * @param string $options what stands in the parenthesis, '' for none
     * @param string $after   the words after it: `unsigned`, `with time zone`, `[]`
     */
    public function type(string $base, string $options, string $after): string
    {
        return trim($base.('' === trim($options) ? '' : '('.trim($options).')').('' === $after ? '' : ' '.$after));
    }

    /**
     * What a word for a type says besides the type.
     *
     * @return array{nullable?: bool, auto?: bool, sequence?: bool, unique?: bool}
     */
    public function serial(string $word): array
    {
        return [];
    }

    /** The form in which the engine's catalog writes an expression; as it stands where nothing better is known. */
    public function expression(string $sql, Surroundings $around): string
    {
        return $sql;
    }

    /**
     * That of a default.
     *
     * @param string $type of its column, as the catalog writes it
     *
     * @return string|null null where it is as good as none
     */
    public function default(string $default, string $type, ?Surroundings $around = null): ?string
    {
        return $default;
    }

    /** The type of a column of a table that a query made. */
    public function queriedType(string $type): string
    {
        return $type;
    }

    /**
     * Its name, beside those before it.
     *
     * @param list<string> $taken
     */
    public function queriedName(string $name, array $taken): string
    {
        return $name;
    }

    /** That of a part of an index. */
    public function indexed(string $sql, Surroundings $around): string
    {
        return $this->expression($sql, $around);
    }

    /** That of what partitions are told by: `RANGE (at)`. */
    public function partitionKey(string $sql, Surroundings $around): string
    {
        return $sql;
    }

    /** How many letters of a long text an index takes that says no number; null for all. */
    public function indexedLength(Index $index, string $type, ?string $storage, ?string $collation): ?int
    {
        return null;
    }

    /** @param list<string> $types of its columns, '' for an expression */
    public function indexMethod(Index $index, array $types): string
    {
        return $index->method;
    }

    /** A name as the engine writes it: in quotation marks where it needs them. */
    public function quotedName(string $name): string
    {
        return $name;
    }

    public function knowsType(string $type): bool
    {
        return true;
    }

    public function isText(string $type): bool
    {
        return 1 === preg_match('/char|text|clob|^enum|^set/i', $type);
    }

    /** A type after its table was given another character set. */
    public function converted(string $type, ?string $from, ?string $to): string
    {
        return $type;
    }

    /** What sets a column when its row changes. */
    public function now(string $expression): string
    {
        return $expression;
    }

    /** @return array{?string, string}|null schema and name of the sequence from which a default takes its number */
    public function sequenceIn(string $default): ?array
    {
        return null;
    }

    /** The default of a column that takes its number from a sequence. */
    public function numberedBy(string $schema, string $sequence): string
    {
        return '';
    }

    /** A name that the engine makes of two others and a label. */
    public function madeName(string $first, string $second, string $label): string
    {
        return $first.('' === $second ? '' : '_'.$second).'_'.$label;
    }

    /**
     * Parts of an index as the catalog has them.
     *
     * @param list<IndexPart> $parts
     *
     * @return list<IndexPart>
     */
    public function indexParts(array $parts, string $method): array
    {
        return $parts;
    }

    /** The name of a storage as the engine writes it. */
    public function storage(string $said): string
    {
        return $said;
    }

    /**
     * What texts of a column are made of.
     *
     * @param string  $type  as the catalog writes it
     * @param string  $words behind the type: `binary`, `ascii`
     * @param ?string $of    collation of the table, null where nothing is said of it
     *
     * @return array{string, ?string, ?string} type, character set and collation
     */
    public function collated(string $type, ?string $charset, ?string $collation, string $words, ?string $of): array
    {
        return [$type, $charset, $collation];
    }

    /** The collation of a table that says a character set, a collation, or both. */
    public function tableCollation(?string $charset, ?string $collation): ?string
    {
        return $collation;
    }

    public function primaryKeyName(string $table, ?string $said): ?string
    {
        return $said;
    }

    /** The name of the index behind a primary key of this name. */
    public function primaryIndexName(?string $key): string
    {
        return (string) $key;
    }

    /**
     * The name of a foreign key that says none.
     *
     * @param list<string> $columns
     * @param list<string> $taken   those of its table
     */
    public function foreignKeyName(string $table, array $columns, array $taken): ?string
    {
        return null;
    }

    /**
     * A check that stands with a column and says no name.
     *
     * @return array{string, ?string} its name, and the column that it is said to belong to
     */
    public function columnCheck(string $table, string $column): array
    {
        return ['', null];
    }

    /** The column that a named check beside it belongs to. */
    public function checkedColumn(string $column): ?string
    {
        return null;
    }

    /**
     * The name of a check of the table that says none.
     *
     * @param list<string> $taken names of its other checks
     */
    public function checkName(string $table, array $taken): string
    {
        return '';
    }

    public function partitionedWords(string $key, int $partitions): string
    {
        return 'partitioned by '.$key;
    }

    /** @param list<string> $policies */
    public function securedWords(array $policies): string
    {
        return 'row-level security';
    }

    /**
     * Parameters of a routine as the catalog writes them.
     *
     * @param list<array{mode: string, name: string, type: string, default: ?string}> $parameters
     */
    public function parameters(array $parameters, string $kind): string
    {
        return implode(
            ', ',
            array_map(static fn (array $p): string => trim("$p[mode] $p[name] $p[type]".(null === $p['default'] ? '' : " DEFAULT $p[default]")), $parameters),
        );
    }
}
