<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\DBAL\Connection;
use Fasti\Join\EntryRoles;
use Fasti\Register\EntryCoverage;
use Fasti\Register\EntryStore;
use Fasti\Source\KnownSource;
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
     * How much is described now, of one kind. Whatever has changed since it was noted last is noted for today.
     *
     * @return array<array-key, Share> by name
     */
    public function now(string $kind): array
    {
        $names = array_map(static fn (KnownSource $source): string => $source->name, $this->sources->all());
        $shares = ['all' => ['' => ['fields' => 0, 'described' => 0]], 'source' => [], 'schema' => []];
        foreach ($this->entries->coverageOfSchemas() as $of) {
            $source = $names[$of->source] ?? '';
            foreach (['all' => '', 'source' => $source, 'schema' => 1 === \count($names) ? $of->schema : $source.' · '.$of->schema] as $each => $name) {
                self::add($shares[$each], $name, $of);
            }
        }
        $known = $this->known();
        $all = $shares['all'][''];
        if ([$all['fields'], $all['described']] !== ($known["all\0"] ?? null) || !isset($shares[$kind])) {
            $shares += $this->further();
            $this->note($shares, $known);
        }

        return self::sorted($shares[$kind] ?? []);
    }

    /** @return array{area: array<array-key, Share>, owner: array<array-key, Share>} what takes a look at each entry */
    private function further(): array
    {
        $area = [];
        foreach ($this->roles->areas() as $name => $ids) {
            $area += array_fill_keys($ids, (string) $name);
        }
        $owner = $this->said->all('entry', 'owner');
        $areas = $owners = [];
        foreach ($this->entries->coverageByEntry() as $id => $entry) {
            self::add($areas, $area[$id] ?? 'no area', $entry);
            self::add($owners, $owner[$id] ?? 'no owner', $entry);
        }

        return ['area' => $areas, 'owner' => $owners];
    }

    /**
     * @param array<array-key, Share> $shares
     */
    private static function add(array &$shares, string $name, EntryCoverage $of): void
    {
        $shares[$name] = ['fields' => ($shares[$name]['fields'] ?? 0) + $of->fields, 'described' => ($shares[$name]['described'] ?? 0) + $of->described];
    }

    /**
     * @param array<array-key, Share> $shares
     *
     * @return array<array-key, Share>
     */
    private static function sorted(array $shares): array
    {
        ksort($shares, \SORT_NATURAL | \SORT_FLAG_CASE);

        return \array_slice($shares, 0, self::MOST, true);
    }

    /** @return array<string, Share> day → share of all, the oldest first */
    public function days(string $kind = 'all', string $name = ''): array
    {
        $days = [];
        $rows = $this->db->iterateAssociative(
            'SELECT on_day, fields, described FROM coverage_day WHERE kind = ? AND name = ? AND on_day > UTC_DATE() - INTERVAL
                '.self::DAYS.' DAY ORDER BY on_day',
            [$kind, $name],
        );
        foreach ($rows as $row) {
            $days[Row::text($row, 'on_day')] = ['fields' => Row::int($row, 'fields'), 'described' => Row::int($row, 'described')];
        }

        return $days;
    }

    /** @return array<string, array{int, int}> kind and name → what was noted today */
    private function known(): array
    {
        $known = [];
        foreach ($this->db->iterateAssociative('SELECT kind, name, fields, described FROM coverage_day WHERE on_day = UTC_DATE()') as $row) {
            $known[Row::text($row, 'kind')."\0".Row::text($row, 'name')] = [Row::int($row, 'fields'), Row::int($row, 'described')];
        }

        return $known;
    }

    /**
     * @param array<string, array<array-key, Share>> $shares
     * @param array<string, array{int, int}>         $known
     */
    private function note(array $shares, array $known): void
    {
        $rows = [];
        foreach ($shares as $kind => $of) {
            foreach (self::sorted($of) as $name => $share) {
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
