<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Catalog\Index;
use Fasti\Core\Engine\MySql\Charsets;
use Fasti\Core\Engine\MySql\MySqlGrammar;

final class MariaDbGrammar extends MySqlGrammar
{
    /** Digits that the catalog writes with whole numbers that say none: signed, unsigned. */
    private const WIDTHS = ['tinyint' => [4, 3], 'smallint' => [6, 5], 'mediumint' => [9, 8], 'int' => [11, 10], 'bigint' => [20, 20]];

    public string $engine = 'mariadb';
    public string $label = 'MariaDB';

    public function __construct()
    {
        parent::__construct();
        // Comments for versions of MySQL that MariaDB never was are none for it.
        $this->signs->versionMarks = '/\\*M!(?!999999)\\d*|/\\*!(?:[0-4]\\d{4}|50[0-6]\\d\\d|1\\d{5})?(?!\\d)';
        $this->catalog->jsonIsText = true;
        $this->catalog->oneCheckAColumn = true;
        $this->catalog->unsaidAction = 'RESTRICT';
        $this->catalog->compressedWord = ' /*M!100301 COMPRESSED*/';
        $this->catalog->usualCollation = 'utf8mb4_general_ci';
    }

    protected function sized(string $name, string $options, bool $unsigned): array
    {
        return match (true) {
            '' === $options && isset(self::WIDTHS[$name]) => [$name, (string) self::WIDTHS[$name][$unsigned ? 1 : 0]],
            isset(self::WIDTHS[$name]) => [$name, $options],
            'year' === $name => [$name, '' === $options ? '4' : $options],
            'json' === $name => ['longtext', ''],
            default => parent::sized($name, $options, $unsigned),
        };
    }

    protected function writing(): MariaDbWriting
    {
        return new MariaDbWriting($this);
    }

    public function currentTime(string $decimals): string
    {
        return 'current_timestamp('.$decimals.')';
    }

    /** The server says of an unnamed check which column it belongs to, and names it like that. */
    public function columnCheck(string $table, string $column): array
    {
        return [$column, $column];
    }

    public function checkName(string $table, array $taken): string
    {
        for ($i = 1; \in_array('CONSTRAINT_'.$i, $taken, true); ++$i) {
            continue;
        }

        return 'CONSTRAINT_'.$i;
    }

    public function indexMethod(Index $index, array $types): string
    {
        // A unique index over a whole long text is kept by its hash.
        $long = array_filter(
            $index->parts,
            static fn ($part, int $i): bool => null === $part->length && 1 === preg_match('/^(?:tiny|medium|long)?(?:text|blob)\b/', $types[$i] ?? ''),
            \ARRAY_FILTER_USE_BOTH,
        );

        return $index->unique && [] !== $long ? 'hash' : $index->method;
    }

    /** An index over a long text, or over a longer one than a key may be, takes as much of it as fits. */
    public function indexedLength(Index $index, string $type, ?string $storage, ?string $collation): ?int
    {
        if ($index->unique || \in_array($index->method, ['fulltext', 'spatial'], true)
            || 1 !== preg_match('/^(?:(tiny|medium|long)?(text|blob)|(var)(char|binary)\((\d+)\))/', $type, $m)) {
            return null;
        }
        $most = match (true) {
            'MyISAM' === $storage || 'MEMORY' === $storage => 1000,
            'Aria' === $storage => 2300,
            default => 3072,
        };
        $bytes = 'blob' === ($m[2] ?? '') || 'binary' === ($m[4] ?? '');
        $letters = intdiv($most, $bytes ? 1 : Charsets::width(Charsets::ofCollation($collation ?? (string) $this->catalog->usualCollation)));
        if ('' !== ($m[2] ?? '')) {
            return 'tiny' === ($m[1] ?? '')
                ? min($letters, $bytes ? 255 : intdiv(255, Charsets::width(Charsets::ofCollation($collation ?? (string) $this->catalog->usualCollation))))
                : $letters;
        }

        return (int) ($m[5] ?? 0) > $letters ? $letters : null;
    }

    public function sequenceIn(string $default): ?array
    {
        return 1 === preg_match('/^\(?\s*(?:NEXT\s+VALUE\s+FOR\s+|NEXTVAL\s*\(\s*)(?:`?(\w+)`?\.)?`?(\w+)`?\s*\)?\s*\)?$/i', $default, $m)
            ? ['' === $m[1] ? null : $m[1], $m[2]]
            : null;
    }

    public function numberedBy(string $schema, string $sequence): string
    {
        return 'nextval('.$this->quotedName($schema).'.'.$this->quotedName($sequence).')';
    }
}
