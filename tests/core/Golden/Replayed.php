<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Golden;

use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** A server that says what it once said. */
final class Replayed implements Rows
{
    /** @var array<string, list<array<string, string|null>>> */
    private array $known = [];

    /** @param list<array{string, array<string, string|int>, list<string>, list<list<string|null>>}> $answers */
    public function __construct(array $answers)
    {
        foreach ($answers as [$sql, $parameters, $columns, $rows]) {
            $this->known[self::key($sql, $parameters)] = array_map(static fn (array $row): array => array_combine($columns, $row), $rows);
        }
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        return $this->known[self::key($sql, $parameters)]
            ?? throw new SourceError('This was not asked when the answers were recorded: '.$sql, 'Record them again: bin/test record.');
    }

    /** @param array<string, string|int> $parameters */
    private static function key(string $sql, array $parameters): string
    {
        // However it is set in lines, it asks the same.
        return preg_replace('/\s+/', ' ', $sql)."\0".json_encode($parameters, \JSON_THROW_ON_ERROR);
    }
}
