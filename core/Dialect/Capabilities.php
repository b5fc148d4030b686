<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** What an engine does of its own accord with tables that are made in it, and how it says the plainest values. */
final readonly class Capabilities
{
    /**
     * @param string  $schema        where a table stands whose schema nobody names
     * @param ?string $home          the schema that a script need not name; null for whichever it is
     * @param ?string $primary       what it calls every primary key; null where each has a name of its own
     * @param bool    $primaryNamed  a primary key has a name at all
     * @param bool    $emptyKeys     a column of a primary key may be empty unless it is said that it may not
     * @param bool    $ownConditions a condition of one column is called after that column
     * @param bool    $sorted        conditions are told by name and not in the order in which they were made
     * @param bool    $setsChanged   a column can be set whenever its row changes, without a trigger
     * @param ?string $storage       how tables are stored where nobody says it
     * @param bool    $traits        what is said of storing are traits of a table
     * @param ?string $numbers       the type that a column must have to be numbered by the database
     * @param bool    $meanings      what tables and fields mean is kept in the database
     * @param bool    $foreignKeysIndexed  what leads elsewhere gets an index whether or not one is asked for
     * @param ?int    $longestKey    how many bytes the fields of a primary key may have together
     * @param ?int    $longestUnique the same of another unique key
     * @param bool    $refuses       deleting a parent can be refused at once, and not only in the end
     * @param bool    $oneEmpty      of the rows that are empty in a unique key there may be one only
     * @param bool    $partsCompared two rows that are empty in a part of a unique key may not be equal in the rest
     * @param bool    $oneWay        what follows a deletion reaches each table by one way only
     * @param string  $nowTo         the moment to so many decimals of the second: %d; '' where `now` has them all
     */
    public function __construct(
        public string $schema = '',
        public ?string $home = null,
        public ?string $primary = null,
        public bool $primaryNamed = true,
        public bool $emptyKeys = false,
        public bool $ownConditions = false,
        public bool $sorted = true,
        public bool $setsChanged = false,
        public ?string $storage = null,
        public bool $traits = false,
        public ?string $numbers = null,
        public bool $meanings = true,
        public bool $foreignKeysIndexed = false,
        public ?int $longestKey = null,
        public ?int $longestUnique = null,
        public bool $refuses = true,
        public bool $oneEmpty = false,
        public bool $partsCompared = false,
        public bool $oneWay = false,
        public string $yes = '1',
        public string $no = '0',
        public string $now = 'CURRENT_TIMESTAMP',
        public string $nowTo = '',
        public string $today = 'CURRENT_DATE',
    ) {
    }

    public function now(string $type): string
    {
        return '' !== $this->nowTo && 1 === preg_match('/\((\d)\)/', $type, $m) ? \sprintf($this->nowTo, $m[1]) : $this->now;
    }
}
