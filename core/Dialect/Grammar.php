<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/**
 * How scripts of a dialect are written, and what the engine makes of what they leave out. As it stands here it is that of
 * the standard; a dialect overrides what it does otherwise.
 */
class Grammar
{
    /** The engine that a catalog read with it is of. */
    public string $engine = 'sql';
    public string $label = 'standard SQL';
    /** A pattern of words and signs that scripts of few other dialects hold. */
    public string $signs = '';
    /** The wider dialect whose signs count for this one too. */
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
    public string $bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP|LOCALTIME|LOCALTIMESTAMP|CURRENT_USER|SESSION_USER|SYSTEM_USER|USER|SYSDATE|SYSTIMESTAMP|ROWNUM|LEVEL|SYSDATETIME)$/';

    // ---- structure ----
    /** KEY name (…) within a table is an index, and KEY after a column makes it the primary key. */
    public bool $inlineIndexes = false;
    /** A type may have several words, whatever they are. */
    public bool $wordyTypes = false;
    /** ARRAY after a type makes it a list. */
    public bool $arrays = false;
    /** Keys are indexes in the catalog too. */
    public bool $keysAreIndexes = false;
    /** A foreign key without an index gets one. */
    public bool $indexesForeignKeys = false;
    /** A unique index is a unique key in the catalog too. */
    public bool $uniqueIndexesAreKeys = false;
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
    /** The catalog counts tables of the engine itself that stand behind virtual ones. */
    public bool $shadowTables = false;
    /** A trigger calls a function, which is all of its body. */
    public bool $triggersCall = false;
    /** The body of a routine begins without AS. */
    public bool $bareRoutines = false;
    /** UNLOGGED and FOREIGN before TABLE say how it is kept. */
    public bool $storageBefore = false;
    /** JSON is a text with a check. */
    public bool $jsonIsText = false;
    /** What the catalog says of a reference whose actions are not said. */
    public string $unsaidAction = 'NO ACTION';

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
     * @return array{type?: string, nullable?: bool, default?: string, auto?: bool}
     */
    public function serial(string $word, string $schema, string $table, string $column): array
    {
        return [];
    }

    /** @param string $default an expression, as the script writes it */
    public function default(string $default, string $type): string
    {
        return $default;
    }

    /** What sets a column when its row changes. */
    public function now(string $expression): string
    {
        return $expression;
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
     * @param list<string> $columns
     * @param list<string> $taken   names of the table's indexes so far
     */
    public function uniqueName(string $table, array $columns, array $taken): ?string
    {
        return null;
    }

    /**
     * @param list<string> $columns
     * @param int          $number  the how-manieth of its table, from 1
     */
    public function foreignKeyName(string $table, array $columns, int $number): ?string
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
     * @param list<string> $used columns that it mentions
     */
    public function checkName(string $table, array $used): string
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
}
