<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** What an engine keeps in its catalog of what was written. As it stands here it is that of the standard. */
final class CatalogRules
{
    /** Names of tables are the same in whatever case. */
    public bool $tablesInAnyCase = false;
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
    /** A table LIKE another has its storage, too. */
    public bool $likeCopies = false;
    /** A collation tells the character set. */
    public bool $collationTellsCharset = false;
    /** The catalog says of the columns of views whether they may be empty. */
    public bool $viewsTellRequired = false;
    /** Columns of views have the collation of what they show. */
    public bool $viewsKeepCollations = false;
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
    /** A pattern of the table that is the catalog itself, into which dumps write rows; '' where there is none. */
    public string $ownTable = '';
    /** How names of tables of the engine itself begin, which the catalog counts; '' where it does not. */
    public string $ownPrefix = '';
    /** A pattern of the ends of names of tables that stand behind a virtual one and are the engine's affair; '' where there are none. */
    public string $shadows = '';
    /** A table that is made of a query keeps what else its columns are where they come from. */
    public bool $keepsOfQuery = false;
    /** JSON is a text with a check. */
    public bool $jsonIsText = false;
    /** What the catalog says of a reference whose actions are not said. */
    public string $unsaidAction = 'NO ACTION';
    /** What tables are kept in that say nothing of it; null where the catalog does not tell. */
    public ?string $usualStorage = null;
    /** The collation of texts where nothing says one. */
    public ?string $usualCollation = null;
}
