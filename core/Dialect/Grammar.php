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

    // ---- signs ----
    /** A backslash escapes within texts. */
    public bool $backslashes = false;
    /** E'…' is a text with escapes. */
    public bool $escapeTexts = false;
    /** "…" may be a text. */
    public bool $doubleQuotedTexts = false;
    /** '…' may be a name. */
    public bool $quotedTextsAsNames = false;
    /** `…` quotes a name. */
    public bool $backticks = true;
    /** […] quotes a name. */
    public bool $brackets = true;
    /** # begins a comment, and /*! … is read by those who know it. */
    public bool $hashAndVersionComments = false;
    public bool $nestedComments = false;
    /** $tag$ … $tag$ is a text. */
    public bool $dollarTexts = false;
    /** Unquoted names are taken in small letters. */
    public bool $foldsNames = false;
    /** DELIMITER changes what ends a statement. */
    public bool $delimiters = false;
    /** A line with GO or / alone ends a statement. */
    public bool $batches = true;
    /** A pattern of what begins a comment that this engine reads; '' where there is none. */
    public string $versionMarks = '';
    /** An unquoted name may begin with a digit. */
    public bool $digitNames = false;
    /** How many bytes a name has at the most, where longer ones are cut without a word; 0 for any. */
    public int $longestName = 0;
    /** Rows follow COPY … FROM stdin. */
    public bool $copiedRows = false;

    // ---- queries ----
    /** A text may say its character set: _utf8mb4'…'. */
    public bool $charsetTexts = false;
    /** q'[…]' is a text that ends with the sign it says. */
    public bool $delimitedTexts = true;
    /** A name may hold #. */
    public bool $hashedNames = true;
    /** Signs together make one operator, whatever they are. */
    public bool $ownOperators = false;
    /** @var array<string, int> how tightly operators bind where that differs from Sql\Precedence */
    public array $binding = [];
    /** Unquoted names and quoted ones are the same in whatever case. */
    public bool $anyCase = true;
    /** What joined fields have in common stands first in *. */
    public bool $mergedFirst = true;
    /** Names that the list of a query gives may be used in GROUP BY, in HAVING, and anywhere. */
    public bool $aliasesInGroup = true;
    public bool $aliasesInHaving = false;
    public bool $aliasesAnywhere = false;
    /** A quoted name that nothing has is a text. */
    public bool $unknownNamesAreTexts = false;
    /** A row may be named by its table, and has the members of its type. */
    public bool $rowsAsValues = false;
    /** A query may name a table of the engine's own without its schema. */
    public string $systemSchemas = '/^(?:information_schema|sys|pg_catalog|performance_schema|mysql|dbc|syscat)$/i';
    /** Functions without parentheses. */
    public string $bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP|LOCALTIME|LOCALTIMESTAMP|CURRENT_USER|SESSION_USER'
        .'|SYSTEM_USER|USER|SYSDATE|SYSTIMESTAMP|ROWNUM|LEVEL|SYSDATETIME)$/';

    // ---- structure ----
    /** Names of tables are the same in whatever case. */
    public bool $tablesInAnyCase = false;
    /** KEY name (…) within a table is an index, and KEY after a column makes it the primary key. */
    public bool $inlineIndexes = false;
    /** INDEX name (…) within a table is one, where it cannot be a column. */
    public bool $looseInlineIndexes = true;
    /** A type may have several words, whatever they are. */
    public bool $wordyTypes = false;
    /** ARRAY after a type makes it a list. */
    public bool $arrays = false;
    /** Elements of a table need no comma between them. */
    public bool $looseLists = false;
    /** Options of columns and keys that are not known are passed over: there are too many engines that write them. */
    public bool $looseOptions = true;
    /** A column may say where it stands: FIRST, AFTER another. */
    public bool $placesColumns = false;
    /** How tightly operators bind within a default that has no parentheses around it. */
    public int $defaultBinding = 50;
    /** Keys are indexes in the catalog too. */
    public bool $keysAreIndexes = false;
    /** A foreign key without an index gets one. */
    public bool $indexesForeignKeys = false;
    /** How an index without a name is called: `first`, by its first column, `all`, by table and columns, or after the standard. */
    public string $indexNames = '';
    /** A unique index is a unique key in the catalog too. */
    public bool $uniqueIndexesAreKeys = false;
    /** The catalog keeps of a reference what was written. */
    public bool $keepsReferenceNames = false;
    /** What depends on something that is dropped goes with it, where the statement says so. */
    public bool $cascades = true;
    /** A table made LIKE another has of it what the statement chooses. */
    public bool $likeChooses = true;
    /** A table LIKE another has its storage, too. */
    public bool $likeCopies = false;
    /** A collation tells the character set. */
    public bool $collationTellsCharset = false;
    /** The catalog says of the columns of views whether they may be empty. */
    public bool $viewsTellRequired = false;
    /** Columns of views have the collation of what they show. */
    public bool $viewsKeepCollations = false;
    /** Index parts may name an operator class; an expression needs no parentheses of its own. */
    public bool $operatorClasses = false;
    public bool $bareIndexCalls = true;
    /** An INTEGER primary key is numbered by the engine; any other may be empty. */
    public bool $rowids = false;
    /** The catalog lists checks by their names. */
    public bool $checksByName = true;
    /** A check without a name gets one when it is made, which nothing else of its schema has. */
    public bool $namesChecksAtOnce = false;
    /** A column has one check of its own; a later one stands in its place. */
    public bool $oneCheckAColumn = false;
    /** A column that is numbered from a sequence counts by itself. */
    public bool $sequencesNumber = false;
    /** Storage that keeps no foreign keys. */
    public string $withoutForeignKeys = '';
    /** What a compressed column carries behind its type. */
    public string $compressedWord = '';
    /** The catalog counts tables of the engine itself that stand behind virtual ones. */
    public bool $shadowTables = false;
    /** A trigger calls a function, which is all of its body. */
    public bool $triggersCall = false;
    /** The body of a routine begins without AS. */
    public bool $bareRoutines = false;
    /** A table that is made of a query keeps what else its columns are where they come from. */
    public bool $keepsOfQuery = false;
    /** SELECT … INTO makes a table. */
    public bool $selectsInto = false;
    /** UNLOGGED and FOREIGN before TABLE say how it is kept. */
    public bool $storageBefore = false;
    /** JSON is a text with a check. */
    public bool $jsonIsText = false;
    /** What the catalog says of a reference whose actions are not said. */
    public string $unsaidAction = 'NO ACTION';
    /** What tables are kept in that say nothing of it; null where the catalog does not tell. */
    public ?string $usualStorage = null;
    /** The collation of texts where nothing says one. */
    public ?string $usualCollation = null;

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
