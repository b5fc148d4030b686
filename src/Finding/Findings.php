<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Account\AccountStore;
use Fasti\Core\Finding\Check;
use Fasti\Core\Finding\Severity;
use Fasti\Register\EntryStore;
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
    private const OPEN = 'ended_at IS NULL AND set_aside_at IS NULL AND gone = 0';

    public function __construct(private Connection $db, private Checks $checks, private EntryStore $entries, private AccountStore $accounts)
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
            $rows[self::identity($check->name(), $one)] = $one;
        }
        $ended = [];
        foreach (null === $entries ? [null] : array_chunk($entries, Batch::SIZE) as $chunk) {
            $of = null === $chunk ? '' : ' AND entry_id IN (?)';
            $open = $this->db->iterateAssociative(
                'SELECT id, identity FROM finding WHERE check_name = ? AND ended_at IS NULL'.$of,
                null === $chunk ? [$check->name()] : [$check->name(), $chunk],
                [1 => ArrayParameterType::INTEGER],
            );
            foreach ($open as $row) {
                if (!isset($rows[Row::text($row, 'identity')])) {
                    $ended[] = Row::int($row, 'id');
                }
            }
        }
        foreach (array_chunk($ended, Batch::SIZE) as $chunk) {
            $this->db->executeStatement('UPDATE finding SET ended_at = UTC_TIMESTAMP() WHERE id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
        }
        $this->store($check, array_values($rows));
    }

    /** Adds to what is known; what was noticed before stays as it is. */
    public function add(Check $check, Noticed ...$noticed): void
    {
        $this->store($check, array_values($noticed));
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
        $this->db->executeStatement(
            'UPDATE finding SET set_aside_at = IF(? = 1, UTC_TIMESTAMP(), NULL), set_aside_by_id = ? WHERE id = ? AND ended_at IS NULL',
            [$aside ? 1 : 0, $aside ? $account->id() : null, $id],
        );
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
            $rows = $this->db->iterateAssociative(
                'SELECT * FROM finding WHERE entry_id IN (?) AND severity = \'attention\' AND '.self::OPEN.' ORDER BY id',
                [$entries],
                [ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $found[Row::int($row, 'entry_id')][] = self::place($row, []);
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
        $counted = 'SELECT check_name, check_group, COUNT(*) AS n, MIN(title) AS one FROM finding WHERE '.self::OPEN.' AND ? IN (0, source_id)
            GROUP BY check_name, check_group';
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
            'SELECT * FROM finding WHERE ended_at IS NULL AND gone = 0 AND check_name = ? AND (? = 1 OR check_group = ?) AND ? IN (0, source_id)
             ORDER BY set_aside_at IS NOT NULL, entry_id, id LIMIT '.$most.' OFFSET '.$skip,
            [$check, null === $group ? 1 : 0, $group ?? '', $source],
        );

        $names = $this->accounts->names(array_values(array_filter(array_map(
            static fn (array $row): int => Row::maybeInt($row, 'set_aside_by_id') ?? 0,
            $rows,
        ))));

        return array_map(static fn (array $row): array => self::place($row, $names), $rows);
    }

    public function count(): int
    {
        return Row::int(['n' => $this->db->fetchOne('SELECT COUNT(*) FROM finding WHERE '.self::OPEN)], 'n');
    }

    /** How many texts of a source wait for somebody to look at them. */
    public function countOf(string $check, int $source): int
    {
        return Row::int(
            ['n' => $this->db->fetchOne('SELECT COUNT(*) FROM finding WHERE check_name = ? AND source_id = ? AND '.self::OPEN, [$check, $source])],
            'n',
        );
    }

    /** A condition on the column e.id: of entries with an open finding of a check. */
    public static function entriesWith(string $check): string
    {
        return \sprintf("e.id IN (SELECT entry_id FROM finding WHERE check_name = '%s' AND %s)", addslashes($check), self::OPEN);
    }

    /**
     * The entries of a source that it has no more: what was found about them waits until they come back.
     *
     * @param list<int> $entries
     */
    public function gone(int $source, array $entries): void
    {
        $this->db->executeStatement(
            'UPDATE finding SET gone = entry_id IN (?) WHERE source_id = ?',
            [[] === $entries ? [0] : $entries, $source],
            [ArrayParameterType::INTEGER],
        );
    }

    /** @param list<Noticed> $noticed */
    private function store(Check $check, array $noticed): void
    {
        $sources = $this->entries->sources(array_values(array_unique(array_map(static fn (Noticed $one): int => $one->entry, $noticed))));
        $rows = array_map(static fn (Noticed $one): array => self::row($check, $one, $sources[$one->entry] ?? 0), $noticed);
        // One that had ended begins anew; what a person set aside stays so as long as it is the same.
        Batch::insert($this->db, 'INSERT INTO finding (identity, check_name, check_group, source_id, entry_id, field_id, property, title, severity, since)
            VALUES', $rows,
            'ON DUPLICATE KEY UPDATE since = IF(ended_at IS NULL, since, UTC_TIMESTAMP()), set_aside_by_id = IF(ended_at IS NULL, set_aside_by_id,
                NULL), set_aside_at = IF(ended_at IS NULL, set_aside_at, NULL), ended_at = NULL, title = VALUES(title), severity = VALUES(severity)');
    }

    /** @return list<string|int|null> */
    private static function row(Check $check, Noticed $one, int $source): array
    {
        return [
            self::identity($check->name(), $one),
            $check->name(),
            mb_substr($one->group, 0, 190),
            $source,
            $one->entry,
            $one->field,
            $one->property,
            $one->title,
            $check->severity()->value,
            gmdate('Y-m-d H:i:s'),
        ];
    }

    private static function identity(string $check, Noticed $one): string
    {
        return hash(
            'xxh128',
            json_encode([$check, $one->group, $one->entry, $one->field, $one->property, $one->evidence], \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE),
        );
    }

    /** @return Group */
    private function group(Check $check, string $group, string $one, int $count): array
    {
        return [
            'check' => $check->name(), 'group' => $group, 'title' => $check->title($group, $one, $count), 'why' => $check->why(),
            'attention' => Severity::Attention === $check->severity(), 'count' => $count, 'one' => $one,
        ];
    }

    /**
     * @param array<string, mixed> $row
     * @param array<int, string>   $names of accounts
     *
     * @return Place
     */
    private static function place(array $row, array $names): array
    {
        return [
            'id' => Row::int($row, 'id'), 'check' => Row::text($row, 'check_name'), 'group' => Row::text($row, 'check_group'),
            'entry' => Row::int($row, 'entry_id'), 'field' => Row::maybeInt($row, 'field_id'),
            'property' => Row::text($row, 'property'), 'title' => Row::text($row, 'title'), 'since' => Row::text($row, 'since'),
            'aside' => null !== $row['set_aside_at'], 'by' => $names[Row::maybeInt($row, 'set_aside_by_id') ?? 0] ?? null,
        ];
    }
}
