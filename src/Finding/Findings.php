<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Finding\Check;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/**
 * The findings that are kept. One stays the same from survey to survey, with what people decided about it; when it is found
 * no more it ends, and begins anew should it come back.
 *
 * @phpstan-type Place array{id: int, check: string, group: string, entry: int, field: ?int, property: string, title: string, since: string, aside: bool, by: ?string}
 * @phpstan-type Group array{check: string, group: string, title: string, why: string, attention: bool, count: int, one: string}
 */
final readonly class Findings
{
    private const OPEN = 'n.ended_at IS NULL AND n.set_aside_at IS NULL';

    public function __construct(private Connection $db, private Checks $checks)
    {
    }

    /**
     * Brings the findings of a check in line with what it has just noticed.
     *
     * @param iterable<Noticed> $noticed
     * @param ?list<int>        $entries it looked at; null for all of the register
     */
    public function follow(Check $check, iterable $noticed, ?array $entries): void
    {
        $rows = [];
        foreach ($noticed as $one) {
            $rows[self::identity($check->name(), $one)] = self::row($check, $one);
        }
        $ended = [];
        foreach (null === $entries ? [null] : array_chunk($entries, Batch::SIZE) as $chunk) {
            $of = null === $chunk ? '' : ' AND entry_id IN (?)';
            $open = $this->db->iterateAssociative('SELECT id, identity FROM finding WHERE check_name = ? AND ended_at IS NULL'.$of, null === $chunk ? [$check->name()] : [$check->name(), $chunk], [1 => ArrayParameterType::INTEGER]);
            foreach ($open as $row) {
                if (!isset($rows[Row::text($row, 'identity')])) {
                    $ended[] = Row::int($row, 'id');
                }
            }
        }
        foreach (array_chunk($ended, Batch::SIZE) as $chunk) {
            $this->db->executeStatement('UPDATE finding SET ended_at = UTC_TIMESTAMP() WHERE id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
        }
        $this->store(array_values($rows));
    }

    /** Adds to what is known; what was noticed before stays as it is. */
    public function add(Check $check, Noticed ...$noticed): void
    {
        $this->store(array_values(array_map(static fn (Noticed $one): array => self::row($check, $one), $noticed)));
    }

    /** A text has been written anew: what was noticed about it before is over. */
    public function endAbout(string $check, int $entry, ?int $field, string $property): void
    {
        $this->db->executeStatement(
            'UPDATE finding SET ended_at = UTC_TIMESTAMP() WHERE check_name = ? AND entry_id = ? AND field_id <=> ? AND property = ? AND ended_at IS NULL',
            [$check, $entry, $field, $property],
        );
    }

    public function setAside(int $id, bool $aside, Account $account): void
    {
        $this->db->executeStatement('UPDATE finding SET set_aside_at = IF(? = 1, UTC_TIMESTAMP(), NULL), set_aside_by_id = ? WHERE id = ? AND ended_at IS NULL', [$aside ? 1 : 0, $aside ? $account->id() : null, $id]);
    }

    /**
     * Open ones of entries that ask for attention.
     *
     * @param list<int> $entries
     *
     * @return array<int, list<Place>> by entry
     */
    public function asking(array $entries): array
    {
        $found = [];
        if ([] !== $entries) {
            $rows = $this->db->iterateAssociative('SELECT n.*, NULL AS aside_by FROM finding n WHERE n.entry_id IN (?) AND n.severity = \'attention\' AND '.self::OPEN.' ORDER BY n.id', [$entries], [ArrayParameterType::INTEGER]);
            foreach ($rows as $row) {
                $found[Row::int($row, 'entry_id')][] = self::place($row);
            }
        }

        return $found;
    }

    /**
     * @param int $source 0 for all
     *
     * @return list<Group> open ones by check and group, those that ask for attention first
     */
    public function groups(int $source): array
    {
        $groups = [];
        $counted = 'SELECT n.check_name, n.check_group, COUNT(*) AS n, MIN(n.title) AS one FROM finding n JOIN entry e ON e.id = n.entry_id WHERE '.self::OPEN.' AND e.gone_at IS NULL AND ? IN (0, e.source_id) GROUP BY n.check_name, n.check_group';
        foreach ($this->db->iterateAssociative($counted, [$source]) as $row) {
            $check = $this->checks->of(Row::text($row, 'check_name'));
            if (null !== $check) {
                $groups[] = $this->group($check, Row::text($row, 'check_group'), Row::text($row, 'one'), Row::int($row, 'n'));
            }
        }
        usort($groups, static fn (array $a, array $b): int => [$b['attention'], $a['count'], $a['title']] <=> [$a['attention'], $b['count'], $b['title']]);

        return $groups;
    }

    /**
     * @param string|null $group null for all of the check
     *
     * @return list<Place> those of a check, with those set aside
     */
    public function places(string $check, ?string $group, int $source, int $most, int $skip = 0): array
    {
        $rows = $this->db->fetchAllAssociative(
            'SELECT n.*, a.name AS aside_by FROM finding n JOIN entry e ON e.id = n.entry_id LEFT JOIN account a ON a.id = n.set_aside_by_id
             WHERE n.ended_at IS NULL AND n.check_name = ? AND (? = 1 OR n.check_group = ?) AND e.gone_at IS NULL AND ? IN (0, e.source_id)
             ORDER BY n.set_aside_at IS NOT NULL, e.schema_name, e.name, n.id LIMIT '.$most.' OFFSET '.$skip,
            [$check, null === $group ? 1 : 0, $group ?? '', $source],
        );

        return array_map(self::place(...), $rows);
    }

    public function count(): int
    {
        return Row::int(['n' => $this->db->fetchOne('SELECT COUNT(*) FROM finding n JOIN entry e ON e.id = n.entry_id WHERE e.gone_at IS NULL AND '.self::OPEN)], 'n');
    }

    /** How many texts of a source wait for somebody to look at them. */
    public function countOf(string $check, int $source): int
    {
        return Row::int(['n' => $this->db->fetchOne('SELECT COUNT(*) FROM finding n JOIN entry e ON e.id = n.entry_id WHERE n.check_name = ? AND e.source_id = ? AND '.self::OPEN, [$check, $source])], 'n');
    }

    /** A condition on the column e.id: of entries with an open finding of a check. */
    public static function entriesWith(string $check): string
    {
        return \sprintf("EXISTS (SELECT 1 FROM finding n WHERE n.entry_id = e.id AND n.check_name = '%s' AND %s)", addslashes($check), self::OPEN);
    }

    /** @param list<list<string|int|null>> $rows */
    private function store(array $rows): void
    {
        // One that had ended begins anew; what a person set aside stays so as long as it is the same.
        Batch::insert($this->db, 'INSERT INTO finding (identity, check_name, check_group, entry_id, field_id, property, title, severity, since) VALUES', $rows,
            'ON DUPLICATE KEY UPDATE since = IF(ended_at IS NULL, since, UTC_TIMESTAMP()), set_aside_by_id = IF(ended_at IS NULL, set_aside_by_id, NULL), set_aside_at = IF(ended_at IS NULL, set_aside_at, NULL), ended_at = NULL, title = VALUES(title), severity = VALUES(severity)');
    }

    /** @return list<string|int|null> */
    private static function row(Check $check, Noticed $one): array
    {
        return [self::identity($check->name(), $one), $check->name(), mb_substr($one->group, 0, 190), $one->entry, $one->field, $one->property, $one->title, $check->severity()->value, gmdate('Y-m-d H:i:s')];
    }

    private static function identity(string $check, Noticed $one): string
    {
        return hash('xxh128', json_encode([$check, $one->group, $one->entry, $one->field, $one->property, $one->evidence], \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /** @return Group */
    private function group(Check $check, string $group, string $one, int $count): array
    {
        return [
            'check' => $check->name(), 'group' => $group, 'title' => $check->title($group, $one, $count), 'why' => $check->why(),
            'attention' => \Fasti\Core\Finding\Severity::Attention === $check->severity(), 'count' => $count, 'one' => $one,
        ];
    }

    /**
     * @param array<string, mixed> $row
     *
     * @return Place
     */
    private static function place(array $row): array
    {
        return [
            'id' => Row::int($row, 'id'), 'check' => Row::text($row, 'check_name'), 'group' => Row::text($row, 'check_group'), 'entry' => Row::int($row, 'entry_id'), 'field' => Row::maybeInt($row, 'field_id'),
            'property' => Row::text($row, 'property'), 'title' => Row::text($row, 'title'), 'since' => Row::text($row, 'since'), 'aside' => null !== $row['set_aside_at'], 'by' => Row::maybeText($row, 'aside_by'),
        ];
    }
}
