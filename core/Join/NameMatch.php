<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** How the name of a field names a table; the less the number, the more it says. */
final readonly class NameMatch
{
    /** It is the table's name. */
    public const EQUAL = 1;
    /** It is what the table's key calls it. */
    public const BY_KEY = 2;
    /** A role, then the table: `home_station`. */
    public const ROLE = 3;
    /** The table, then a role: `station_from`. */
    public const ROLE_AFTER = 4;
    /** What the fields of the table begin with. */
    public const ALIAS = 6;
    /** A short form of the table's name. */
    public const SHORT = 7;
    /** The end of the table's name: `model` for instrument_model. */
    public const TAIL = 8;
    /** The beginning of the table's name: `kind` for kind_type. */
    public const HEAD = 9;
    public const ROLE_SHORT = 10;
    /** Run together with a role before it: `homestation`. */
    public const INSIDE = 11;
    public const ROLE_TAIL = 12;
    public const INITIALS = 13;
    public const SHORT_TAIL = 14;
    public const ALIAS_INSIDE = 15;
    /** Another word for the same: `site` for station. */
    public const SYNONYM = 16;
    /** The comment on the table has the word. */
    public const TOLD = 17;
    /** The table's name but for the word for its sort: `kind` for kind_type. */
    public const SORT = 18;
    /** A role, then what the table's key calls it. */
    public const ROLE_BY_KEY = 5;

    /**
     * @param list<string> $role    the words that do not name the table
     * @param string       $ending  what it ends in, where that is like a key's name
     * @param int          $sharing how many tables it may mean so
     * @param float        $covered the part of the field's words that name the table, 0 to 1
     * @param float        $covers  the part of the table's name that they are
     */
    public function __construct(
        public int $how,
        public array $role,
        public string $ending,
        public int $sharing = 1,
        public float $covered = 1.0,
        public float $covers = 1.0,
    ) {
    }
}
