<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** What a query of a dialect may say, and what names in it mean. As it stands here it is that of the standard. */
final class QueryRules
{
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
    public string $systemSchemas = '/^information_schema$/i';
    /** Functions without parentheses. */
    public string $bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP|LOCALTIME|LOCALTIMESTAMP|CURRENT_USER|SESSION_USER'
        .'|SYSTEM_USER|USER|SYSDATE|SYSTIMESTAMP|ROWNUM|LEVEL|SYSDATETIME)$/';
}
