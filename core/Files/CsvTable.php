<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Survey\Progress;

/** A CSV file as a table. The type of a column is the narrowest that all of its values fit. */
final class CsvTable
{
    private const TRUE_FALSE = ['true' => 1, 'false' => 1, 'yes' => 1, 'no' => 1];

    /** @var list<string> */
    public array $notes = [];

    public function __construct(private readonly string $schema, private readonly string $name, private readonly CsvFile $file)
    {
    }

    public function read(Progress $progress): Table
    {
        $size = (int) @filesize($this->file->path);
        $width = \count($this->file->header);
        $types = array_fill(0, $width, '');
        $digits = $decimals = $longest = $empty = array_fill(0, $width, 0);
        $rows = 0;
        foreach ($this->file as $row) {
            ++$rows;
            foreach ($row as $i => $value) {
                if ('' === $value) {
                    ++$empty[$i];
                    continue;
                }
                $type = self::typeOf($value);
                if ('integer' === $type || 'decimal' === $type) {
                    [$whole, $part] = explode('.', ltrim($value, '+-')) + [1 => ''];
                    $digits[$i] = max($digits[$i], \strlen($whole));
                    $decimals[$i] = max($decimals[$i], \strlen($part));
                }
                $longest[$i] = max($longest[$i], mb_strlen($this->file->text($value)));
                $types[$i] = '' === $types[$i] || $types[$i] === $type ? $type : self::both($types[$i], $type);
            }
            if (0 === ($rows & 0x7FF)) {
                $progress->at('the rows of '.$this->name, $this->file->bytes, $size);
            }
        }
        $columns = [];
        foreach ($this->file->header as $i => $name) {
            $columns[] = new Column($name, match ($types[$i]) {
                '' => 'text',
                'decimal' => \sprintf('decimal(%d,%d)', $digits[$i] + $decimals[$i], $decimals[$i]),
                'text' => \sprintf('varchar(%d)', $longest[$i]),
                'integer' => $digits[$i] > 9 ? 'bigint' : 'integer',
                default => $types[$i],
            }, 0 === $rows || $empty[$i] > 0);
        }
        $this->notes = $this->file->notes();

        return new Table($this->schema, $this->name, TableType::Table, '', $columns, rowEstimate: $rows, sizeBytes: $size, storage: 'CSV');
    }

    /** @return string integer, decimal, double, date, timestamp, boolean or text */
    public static function typeOf(string $value): string
    {
        return match (true) {
            1 === preg_match('/^[+-]?(?:0|[1-9]\d{0,17})$/', $value) => 'integer',
            1 === preg_match('/^[+-]?\d{1,15}\.\d{1,15}$/', $value) && 1 !== preg_match('/^[+-]?0\d/', $value) => 'decimal',
            1 === preg_match('/^[+-]?\d+(?:\.\d+)?[eE][+-]?\d+$/', $value) => 'double',
            1 === preg_match('/^(\d{4})-(\d\d)-(\d\d)$/D', $value, $m) && checkdate((int) $m[2], (int) $m[3], (int) $m[1]) => 'date',
            1 === preg_match('/^\d{4}-\d\d-\d\d[T ]\d\d:\d\d(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d:?\d\d)?$/', $value) => 'timestamp',
            isset(self::TRUE_FALSE[strtolower($value)]) => 'boolean',
            default => 'text',
        };
    }

    private static function both(string $a, string $b): string
    {
        $pair = [$a => 1, $b => 1];
        $within = static fn (string ...$types): bool => [] === array_diff_key($pair, array_flip($types));

        return match (true) {
            $within('integer', 'decimal') => 'decimal',
            $within('integer', 'decimal', 'double') => 'double',
            $within('date', 'timestamp') => 'timestamp',
            default => 'text',
        };
    }
}
