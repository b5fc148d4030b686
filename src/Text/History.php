<?php

declare(strict_types=1);

namespace Fasti\Text;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Account\AccountStore;
use Fasti\Support\Row;

/** The history of everything that is written, by topic and id. */
final readonly class History
{
    public const PAGE = 100;
    private const COLUMNS = 'id, topic, topic_id, property, text_before, text_after, at, account_id';

    public function __construct(private Connection $db, private AccountStore $accounts, private Vocabulary $vocabulary)
    {
    }

    /** @return int the number of the change */
    public function note(Account $account, Subject $subject, string $property, string $before, string $after, string $sitting): int
    {
        $this->db->executeStatement(
            'INSERT INTO change_event (topic, topic_id, page, page_id, property, text_before, text_after, account_id, at, sitting)
                VALUES (?, ?, ?, ?, ?, ?, ?, ?, UTC_TIMESTAMP(), ?)',
            [$subject->topic, $subject->id, $subject->page, $subject->pageId, $property, $before, $after, $account->id(), mb_substr($sitting, 0, 40)],
        );

        return (int) $this->db->lastInsertId();
    }

    /** How many changes there were since a moment, in UTC as the database writes it; of one account, or of all. */
    public function countSince(string $moment, ?Account $account = null): int
    {
        $only = null === $account ? '' : ' AND account_id = ?';

        return Row::int(['n' => $this->db->fetchOne(
            "SELECT COUNT(*) FROM change_event WHERE at >= ? AND text_before <> text_after$only",
            null === $account ? [$moment] : [$moment, $account->id()],
        )], 'n');
    }

    /** @return array<int, string> id of the thing → what a person has set a property of it to last */
    public function chosen(string $topic, string $property, Account $account): array
    {
        $chosen = [];
        $sql = 'SELECT topic_id, text_after FROM change_event WHERE topic = ? AND property = ? AND account_id = ? ORDER BY id';
        foreach ($this->db->iterateAssociative($sql, [$topic, $property, $account->id()]) as $row) {
            $chosen[Row::int($row, 'topic_id')] = Row::text($row, 'text_after');
        }

        return $chosen;
    }

    /** What is typed in one sitting becomes one change. */
    public function extend(int $change, string $after): void
    {
        $this->db->executeStatement('UPDATE change_event SET text_after = ?, at = UTC_TIMESTAMP() WHERE id = ?', [$after, $change]);
    }

    public function last(string $topic, int $id, string $property): ?LastChange
    {
        $row = $this->db->fetchAssociative(
            'SELECT id, account_id, sitting, at FROM change_event WHERE topic = ? AND topic_id = ? AND property = ? ORDER BY id DESC LIMIT 1',
            [$topic, $id, $property],
        );

        if (false === $row) {
            return null;
        }
        $by = Row::int($row, 'account_id');

        return new LastChange(
            Row::int($row, 'id'),
            $by,
            $this->accounts->names([$by])[$by] ?? '',
            Row::text($row, 'at'),
            Row::text($row, 'sitting'),
        );
    }

    public function change(int $id): ?TextChange
    {
        $row = $this->db->fetchAssociative('SELECT '.self::COLUMNS.' FROM change_event WHERE id = ?', [$id]);

        return false === $row ? null : self::read($row, '', '');
    }

    /** @param array<string, mixed> $row */
    private static function read(array $row, string $by, string $of): TextChange
    {
        return new TextChange(
            Row::int($row, 'id'), Row::text($row, 'topic'), Row::int($row, 'topic_id'), Row::text($row, 'property'), Row::text($row, 'text_before'),
            Row::text($row, 'text_after'), Row::text($row, 'at'), $by, $of,
        );
    }

    /**
     * What happened to a thing and to all whose history stands on its page, the latest first.
     *
     * @param int $before only changes with a lower number
     *
     * @return array{changes: list<TextChange>, more: bool} as templates take them
     */
    public function of(string $page, int $pageId, int $before = \PHP_INT_MAX): array
    {
        $rows = $this->db->fetchAllAssociative(
            'SELECT '.self::COLUMNS.' FROM change_event
             WHERE page = ? AND page_id = ? AND id < ? AND text_before <> text_after ORDER BY id DESC LIMIT '.(self::PAGE + 1),
            [$page, $pageId, $before],
        );
        $names = $this->names($page, $rows);
        $people = $this->accounts->names(array_map(static fn (array $row): int => Row::int($row, 'account_id'), $rows));
        $changes = array_map(static fn (array $row): TextChange => self::read(
            $row,
            $people[Row::int($row, 'account_id')] ?? '',
            $names[Row::text($row, 'topic')][Row::int($row, 'topic_id')] ?? '',
        ), \array_slice($rows, 0, self::PAGE));

        return ['changes' => $changes, 'more' => \count($rows) > self::PAGE];
    }

    /**
     * @param list<array<string, mixed>> $rows
     *
     * @return array<string, array<int, string>>
     */
    private function names(string $page, array $rows): array
    {
        $ids = [];
        foreach ($rows as $row) {
            if ($page !== Row::text($row, 'topic')) {
                $ids[Row::text($row, 'topic')][] = Row::int($row, 'topic_id');
            }
        }
        $names = [];
        foreach ($ids as $topic => $of) {
            $names[$topic] = $this->vocabulary->topic($topic)->names(array_values(array_unique($of)));
        }

        return $names;
    }
}
