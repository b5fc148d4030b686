<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\DBAL\Connection;
use Fasti\Join\EntryRoles;
use Fasti\Register\EntryStore;
use Fasti\Source\SourceStore;
use Fasti\Support\Batch;
use Fasti\Support\Row;
use Fasti\Text\SaidStore;

/**
 * How much is described: now, and day by day.
 *
 * @phpstan-type Share array{fields: int, described: int}
 */
final readonly class Coverage
{
    public const KINDS = ['source', 'schema', 'area', 'owner'];
    private const MOST = 200;
    /** Days of which the line is drawn. */
    private const DAYS = 366;

    public function __construct(
        private Connection $db,
        private EntryStore $entries,
        private SourceStore $sources,
        private EntryRoles $roles,
        private SaidStore $said,
    ) {
    }

    /**
     * Counts, and notes it for today.
     *
     * @return array<string, array<array-key, Share>> kind → name → share; "all" has one, named ""
     */
    public function now(): array
    {
        $names = array_map(static fn (array $source): string => $source['name'], $this->sources->all());
        $area = [];
        foreach ($this->roles->areas() as $name => $ids) {
            $area += array_fill_keys($ids, (string) $name);
        }
        $owner = $this->said->all('entry', 'owner');
        $shares = ['all' => ['' => ['fields' => 0, 'described' => 0]]] + array_fill_keys(self::KINDS, []);
        foreach ($this->entries->coverageByEntry() as $id => $entry) {
            $source = $names[$entry['source']] ?? '';
            $of = [
                'all' => '', 'source' => $source, 'schema' => 1 === \count($names) ? $entry['schema'] : $source.' · '.$entry['schema'],
                'area' => $area[$id] ?? 'no area', 'owner' => $owner[$id] ?? 'no owner',
            ];
            foreach ($of as $kind => $name) {
                $shares[$kind][$name] ??= ['fields' => 0, 'described' => 0];
                $shares[$kind][$name]['fields'] += $entry['fields'];
                $shares[$kind][$name]['described'] += $entry['described'];
            }
        }
        foreach (self::KINDS as $kind) {
            ksort($shares[$kind], \SORT_NATURAL | \SORT_FLAG_CASE);
            $shares[$kind] = \array_slice($shares[$kind], 0, self::MOST, true);
        }
        $this->note($shares);

        return $shares;
    }

    /** @return array<string, Share> day → share of all, the oldest first */
    public function days(string $kind = 'all', string $name = ''): array
    {
        $days = [];
        $rows = $this->db->iterateAssociative(
            'SELECT on_day, fields, described FROM coverage_day WHERE kind = ? AND name = ? AND on_day > UTC_DATE() - INTERVAL '.self::DAYS.' DAY ORDER BY on_day',
            [$kind, $name],
        );
        foreach ($rows as $row) {
            $days[Row::text($row, 'on_day')] = ['fields' => Row::int($row, 'fields'), 'described' => Row::int($row, 'described')];
        }

        return $days;
    }

    /** @param array<string, array<array-key, Share>> $shares */
    private function note(array $shares): void
    {
        $known = [];
        foreach ($this->db->iterateAssociative('SELECT kind, name, fields, described FROM coverage_day WHERE on_day = UTC_DATE()') as $row) {
            $known[Row::text($row, 'kind')."\0".Row::text($row, 'name')] = [Row::int($row, 'fields'), Row::int($row, 'described')];
        }
        $rows = [];
        foreach ($shares as $kind => $of) {
            foreach ($of as $name => $share) {
                $name = mb_substr((string) $name, 0, 190);
                if ([$share['fields'], $share['described']] !== ($known["$kind\0$name"] ?? null)) {
                    $rows[] = [gmdate('Y-m-d'), $kind, $name, $share['fields'], $share['described']];
                }
            }
        }
        Batch::insert(
            $this->db,
            'INSERT INTO coverage_day (on_day, kind, name, fields, described) VALUES',
            $rows,
            'ON DUPLICATE KEY UPDATE fields = VALUES(fields), described = VALUES(described)',
        );
    }
}
