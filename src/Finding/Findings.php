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
use Fasti\Register\Fields;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/**
 * The findings that are kept. One stays the same from survey to survey, with what people decided about it; when it is found
 * no more it ends, and begins anew should it come back.
 */
final readonly class Findings
{
    private const OPEN = 'ended_at IS NULL AND (set_aside_at IS NULL OR set_aside_until < UTC_DATE()) AND gone = 0';
    private const ORDER = "FIELD(severity, 'fault', 'doubt', 'note')";

    public function __construct(private Connection $db, private Checks $checks, private EntryStore $entries, private AccountStore $accounts,
        private CheckSettings $settings, private Fields $fields)
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
        foreach ($this->settings->runs($check) ? $noticed : [] as $one) {
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

    /** Additivity to what is known; what was noticed before stays as it is. */
    public function add(Check $check, Noticed ...$noticed): void
    {
        if ($this->settings->runs($check)) {
            $this->store($check, array_values($noticed));
        }
    }

    /**
     * A text has been written anew: what was noticed about it before is over.
     *
     * @param string|list<string> $checks
     */
    public function endAbout(string|array $checks, int $entry, ?int $field, string $property): void
    {
        $this->db->executeStatement(
            'UPDATE finding SET ended_at = UTC_TIMESTAMP() WHERE check_name IN (?) AND entry_id = ? AND field_id <=> ? AND property = ? AND ended_at IS NULL',
            [(array) $checks, $entry, $field, $property],
            [ArrayParameterType::STRING],
        );
    }

    /** @param ?string $until the last day for which it is set aside; null for good */
    public function setAside(int $id, bool $aside, Account $account, string $why = '', ?string $until = null): void
    {
        $this->db->executeStatement(
            'UPDATE finding SET set_aside_at = IF(? = 1, UTC_TIMESTAMP(), NULL), set_aside_by_id = ?, set_aside_why = ?, set_aside_until = ?
                WHERE id = ? AND ended_at IS NULL',
            [$aside ? 1 : 0, $aside ? $account->id() : null, $aside ? mb_substr($why, 0, 255) : '', $aside ? $until : null, $id],
        );
    }

    /**
     * All of one line at once.
     *
     * @return int how many
     */
    public function setAsideAll(string $check, string $group, int $source, Account $account, string $why, ?string $until): int
    {
        return (int) $this->db->executeStatement(
            'UPDATE finding SET set_aside_at = UTC_TIMESTAMP(), set_aside_by_id = ?, set_aside_why = ?, set_aside_until = ?
                WHERE check_name = ? AND check_group = ? AND ? IN (0, source_id) AND '.self::OPEN,
            [$account->id(), mb_substr($why, 0, 255), $until, $check, $group, $source],
        );
    }

    /** A check does not run any more: what it had noticed is over. */
    public function endAll(string $check): void
    {
        $this->db->executeStatement('UPDATE finding SET ended_at = UTC_TIMESTAMP() WHERE check_name = ? AND ended_at IS NULL', [$check]);
    }

    public function weigh(string $check, Severity $severity): void
    {
        $this->db->executeStatement('UPDATE finding SET severity = ? WHERE check_name = ?', [$severity->value, $check]);
    }

    /** @return list<Told> open ones of a source, as `fasti:check` tells them */
    public function told(int $source): array
    {
        $told = [];
        foreach ($this->groups($source) as $group) {
            $places = $this->places($group->check, $group->group, $source, 100000);
            $at = $this->entries->placed(array_values(array_unique(array_column($places, 'entry'))));
            $names = $this->fields->called(array_values(array_filter(array_column($places, 'field'))));
            $where = [];
            foreach ($places as $place) {
                $entry = $at[$place->entry]->place ?? null;
                if (!$place->aside && null !== $entry) {
                    $where[] = ['schema' => $entry->schema, 'table' => $entry->name,
                        'column' => null === $place->field ? null : $names[$place->field] ?? null];
                }
            }
            $told[] = new Told($group->check, $group->severity, $where, $group->title, $group->why, $group->mend);
        }

        return $told;
    }

    /**
     * @param int $most are counted: of many it is enough to know that they are many
     *
     * @return array<string, int> check → how many open ones began since a moment, notes apart; the gravest first, then the most
     */
    public function newSince(string $moment, int $most): array
    {
        $new = [];
        // Everything that is asked for stands in an index.
        $sql = 'SELECT check_name, severity, COUNT(*) AS n FROM (SELECT check_name, severity FROM finding WHERE
            '.self::OPEN." AND since >= ? AND severity <> 'note'
            LIMIT $most) f GROUP BY check_name, severity ORDER BY ".self::ORDER.', n DESC, check_name';
        foreach ($this->db->iterateAssociative($sql, [$moment]) as $row) {
            $new[Row::text($row, 'check_name')] = Row::int($row, 'n');
        }

        return $new;
    }

    /**
     * Open ones of entries that ask for attention.
     *
     * @param list<int> $entries
     *
     * @return array<int, list<FoundAt>> by entry
     */
    public function asking(array $entries): array
    {
        $found = [];
        if ([] !== $entries) {
            $rows = $this->db->iterateAssociative(
                'SELECT * FROM finding WHERE entry_id IN (?) AND severity <> \'note\' AND '.self::OPEN.' ORDER BY '.self::ORDER.', id',
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
     * @param string $severity '' for all
     *
     * @return list<FoundGroup> open ones by check and group, the gravest first
     */
    public function groups(int $source, string $severity = ''): array
    {
        $groups = [];
        $counted = 'SELECT check_name, check_group, severity, COUNT(*) AS n, MIN(title) AS one, MIN(entry_id) AS entry, MIN(field_id) AS field FROM finding
            WHERE '.self::OPEN." AND ? IN (0, source_id)
            AND ? IN ('', severity) GROUP BY check_name, check_group, severity";
        foreach ($this->db->iterateAssociative($counted, [$source, $severity]) as $row) {
            $check = $this->checks->of(Row::text($row, 'check_name'));
            if (null !== $check) {
                $groups[] = self::group($check, $row);
            }
        }
        usort($groups, static fn (FoundGroup $a, FoundGroup $b): int => [Severity::from($b->severity)->rank(), $a->count, $a->title]
            <=> [Severity::from($a->severity)->rank(), $b->count, $b->title]);

        return $groups;
    }

    /**
     * @param string|null $group null for all of the check
     *
     * @return list<FoundAt> those of a check, with those set aside
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

        return array_map(static fn (array $row): FoundAt => self::place($row, $names), $rows);
    }

    /** One that is still there. */
    public function one(int $id): ?FoundAt
    {
        $row = $this->db->fetchAssociative('SELECT * FROM finding WHERE id = ? AND ended_at IS NULL', [$id]);

        return false === $row ? null : self::place($row, []);
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
        $severity = $this->settings->severity($check);
        $rows = array_map(static fn (Noticed $one): array => self::row($check, $one, $sources[$one->entry] ?? 0, $severity), $noticed);
        // One that had ended begins anew; what a person set aside stays so as long as it is the same.
        Batch::insert($this->db, 'INSERT INTO finding (identity, check_name, check_group, source_id, entry_id, field_id, property, title, severity, since,
            set_aside_why)
            VALUES', $rows,
            'ON DUPLICATE KEY UPDATE since = IF(ended_at IS NULL, since, UTC_TIMESTAMP()), set_aside_by_id = IF(ended_at IS NULL, set_aside_by_id,
                NULL), set_aside_at = IF(ended_at IS NULL, set_aside_at, NULL), ended_at = NULL, title = VALUES(title), severity = VALUES(severity)');
    }

    /** @return list<string|int|null> */
    private static function row(Check $check, Noticed $one, int $source, Severity $severity): array
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
            $severity->value,
            gmdate('Y-m-d H:i:s'),
            '',
        ];
    }

    private static function identity(string $check, Noticed $one): string
    {
        return hash(
            'xxh128',
            json_encode([$check, $one->group, $one->entry, $one->field, $one->property, $one->evidence], \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE),
        );
    }

    /** @param array<string, mixed> $row */
    private static function group(Check $check, array $row): FoundGroup
    {
        $group = Row::text($row, 'check_group');
        $one = Row::text($row, 'one');
        $count = Row::int($row, 'n');

        return new FoundGroup(
            $check->name(), $group, $check->title($group, $one, $count), $check->why(), $check->mend(), Severity::from(Row::text($row, 'severity'))->value,
            $count, $one, Row::int($row, 'entry'), Row::maybeInt($row, 'field'),
        );
    }

    /**
     * @param array<string, mixed> $row
     * @param array<int, string>   $names of accounts
     */
    private static function place(array $row, array $names): FoundAt
    {
        $until = Row::maybeText($row, 'set_aside_until');

        return new FoundAt(
            Row::int($row, 'id'), Row::text($row, 'check_name'), Row::text($row, 'check_group'), Row::int($row, 'entry_id'),
            Row::maybeInt($row, 'field_id'), Row::text($row, 'property'), Row::text($row, 'title'), Row::text($row, 'since'), Row::text($row, 'severity'),
            null !== $row['set_aside_at'] && (null === $until || $until >= gmdate('Y-m-d')), Row::text($row, 'set_aside_why'), $until,
            $names[Row::maybeInt($row, 'set_aside_by_id') ?? 0] ?? null,
        );
    }
}
