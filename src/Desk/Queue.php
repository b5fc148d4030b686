<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Support\Again;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/**
 * What nobody has described, by what it is worth. What an account has put off is left out for it until then.
 *
 * @phpstan-type Item array{topic: string, id: int, entry: int, source: int, worth: float, why: list<string>, drafted: bool}
 */
final readonly class Queue
{
    private const LATER_DAYS = 7;
    private const ORDER = 'w.place, w.entry_id, w.topic, w.topic_id';

    public function __construct(private Connection $db)
    {
    }

    /**
     * Replaces what waits of a source.
     *
     * @param list<Item> $items
     */
    public function replace(int $source, array $items): void
    {
        Again::transaction($this->db, function () use ($source, $items): void {
            $this->db->executeStatement('DELETE FROM waiting WHERE source_id = ?', [$source]);
            $this->insert($items);
            $this->db->executeStatement('DELETE FROM waiting_tally WHERE source_id = ?', [$source]);
            $this->db->executeStatement(
                'INSERT INTO waiting_tally (source_id, topic, drafted, n) SELECT source_id, topic, drafted, COUNT(*) FROM waiting WHERE source_id = ? '
                    .'GROUP BY topic, drafted',
                [$source],
            );
        });
    }

    /** @param Item $item that waits again */
    public function add(array $item): void
    {
        $this->drop($item['topic'], $item['id']);
        $this->insert([$item]);
        $this->tally($item['source'], $item['topic'], $item['drafted'], 1);
    }

    private function tally(int $source, string $topic, bool $drafted, int $by): void
    {
        $this->db->executeStatement(
            'INSERT INTO waiting_tally (source_id, topic, drafted, n) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE n = n + VALUES(n)',
            [$source, $topic, $drafted ? 1 : 0, $by],
        );
    }

    /** @param list<Item> $items */
    private function insert(array $items): void
    {
        Batch::insert(
            $this->db,
            'INSERT INTO waiting (topic, topic_id, entry_id, source_id, place, why, drafted) VALUES',
            array_map(static fn (array $item): array => [
                $item['topic'], $item['id'], $item['entry'], $item['source'], (string) -$item['worth'], Batch::json($item['why']), $item['drafted'] ? 1 : 0,
            ], $items),
            'ON DUPLICATE KEY UPDATE place = VALUES(place), why = VALUES(why), drafted = VALUES(drafted)',
        );
    }

    /** @return array<int, array{int, string}> entry → how many of its fields wait, and why that matters; the worthiest first */
    public function byEntry(): array
    {
        $by = [];
        $rows = $this->db->iterateAssociative(
            "SELECT entry_id, COUNT(*) AS n, MIN(place) AS most, JSON_UNQUOTE(JSON_EXTRACT(MIN(why), '$[0]')) AS why FROM waiting WHERE topic = 'field'
             GROUP BY entry_id ORDER BY most, entry_id",
        );
        foreach ($rows as $row) {
            $by[Row::int($row, 'entry_id')] = [Row::int($row, 'n'), Row::maybeText($row, 'why') ?? ''];
        }

        return $by;
    }

    public function hasFields(int $entry): bool
    {
        return false !== $this->db->fetchOne("SELECT 1 FROM waiting WHERE entry_id = ? AND topic = 'field' LIMIT 1", [$entry]);
    }

    public function drop(string $topic, int $id): void
    {
        $item = $this->one($topic, $id);
        if (null !== $item && 1 === (int) $this->db->executeStatement('DELETE FROM waiting WHERE topic = ? AND topic_id = ?', [$topic, $id])) {
            $this->tally($item['source'], $topic, $item['drafted'], -1);
        }
    }

    public function later(Account $account, string $topic, int $id, bool $put = true): void
    {
        if ($put) {
            $this->db->executeStatement(
                'INSERT INTO later (account_id, topic, topic_id, until_at) VALUES (?, ?, ?, UTC_TIMESTAMP() + INTERVAL '.self::LATER_DAYS.' DAY)
                ON DUPLICATE KEY UPDATE until_at = VALUES(until_at)',
                [$account->id(), $topic, $id],
            );
        } else {
            $this->db->executeStatement('DELETE FROM later WHERE account_id = ? AND topic = ? AND topic_id = ?', [$account->id(), $topic, $id]);
        }
    }

    /**
     * @param list<int>|null                                              $entries only of these; null for all
     * @param array{worth: float, entry: int, topic: string, id: int}|null $after  what stands behind this in the order
     *
     * @return Item|null
     */
    public function next(Account $account, int $source = 0, ?array $entries = null, ?array $after = null): ?array
    {
        [$where, $values, $types] = $this->where($account, $source, $entries);
        if (null !== $after) {
            $where .= ' AND (w.place > ? OR w.place = ? AND (w.entry_id > ? OR w.entry_id = ? AND (w.topic > ? OR w.topic = ? AND w.topic_id > ?)))';
            array_push($values, -$after['worth'], -$after['worth'], $after['entry'], $after['entry'], $after['topic'], $after['topic'], $after['id']);
        }
        $row = $this->db->fetchAssociative("SELECT w.* FROM waiting w WHERE $where ORDER BY ".self::ORDER.' LIMIT 1', $values, $types);

        return false === $row ? null : self::item($row);
    }

    /** @return Item|null null where it does not wait any more */
    public function one(string $topic, int $id): ?array
    {
        $row = $this->db->fetchAssociative('SELECT w.* FROM waiting w WHERE topic = ? AND topic_id = ?', [$topic, $id]);

        return false === $row ? null : self::item($row);
    }

    /**
     * @param list<int>|null $entries
     *
     * @return array{entries: int, fields: int, drafts: int} how many wait, and of how many fields there is a draft
     */
    public function count(Account $account, int $source = 0, ?array $entries = null): array
    {
        $counts = ['entries' => 0, 'fields' => 0, 'drafts' => 0];
        [$where, $values, $types] = self::among($source, $entries);
        $all = null === $entries
            ? $this->db->iterateAssociative('SELECT topic, drafted, SUM(n) AS n FROM waiting_tally WHERE ? IN (0, source_id) GROUP BY topic, drafted',
                [$source])
            : $this->db->iterateAssociative("SELECT w.topic, w.drafted, COUNT(*) AS n FROM waiting w WHERE $where GROUP BY w.topic, w.drafted", $values,
                $types);
        // What was put off is little.
        $off = $this->db->iterateAssociative(
            "SELECT w.topic, w.drafted, -COUNT(*) AS n FROM later l STRAIGHT_JOIN waiting w ON w.topic = l.topic AND w.topic_id = l.topic_id
             WHERE $where AND l.account_id = ? AND l.until_at > UTC_TIMESTAMP() GROUP BY w.topic, w.drafted",
            [...$values, $account->id()],
            $types,
        );
        foreach ([$all, $off] as $rows) {
            foreach ($rows as $row) {
                $n = Row::int($row, 'n');
                $field = 'field' === Row::text($row, 'topic');
                $counts[$field ? 'fields' : 'entries'] += $n;
                $counts['drafts'] += $field && 1 === Row::int($row, 'drafted') ? $n : 0;
            }
        }

        return $counts;
    }

    /** Something was looked for in vain. */
    public function sought(string $words): void
    {
        $this->db->executeStatement(
            'INSERT INTO sought (words, times, last_at) VALUES (?, 1, UTC_TIMESTAMP()) ON DUPLICATE KEY UPDATE times = times + 1, last_at = VALUES(last_at)',
            [mb_strtolower(mb_substr(trim($words), 0, 120))],
        );
    }

    /** @return array<array-key, int> words → how often, of the last months, the most frequent first */
    public function soughtOften(int $most): array
    {
        return array_map(
            static fn (mixed $n): int => is_numeric($n) ? (int) $n : 0,
            $this->db->fetchAllKeyValue(
                'SELECT words, times FROM sought WHERE last_at > UTC_TIMESTAMP() - INTERVAL 90 DAY ORDER BY times DESC, words LIMIT '.$most,
            ),
        );
    }

    /**
     * @param list<int>|null $entries
     *
     * @return array{string, list<mixed>, array<int<0, max>, ArrayParameterType>}
     */
    private function where(Account $account, int $source, ?array $entries): array
    {
        [$where, $values, $types] = self::among($source, $entries);
        $values[] = $account->id();

        return [
            $where
                .' AND NOT EXISTS (SELECT 1 FROM later l WHERE l.account_id = ? AND l.topic = w.topic AND l.topic_id = w.topic_id AND l.until_at > '
                .'UTC_TIMESTAMP())',
            $values, $types,
        ];
    }

    /**
     * @param list<int>|null $entries
     *
     * @return array{string, list<mixed>, array<int<0, max>, ArrayParameterType>}
     */
    private static function among(int $source, ?array $entries): array
    {
        $where = '1 = 1';
        $values = [];
        $types = [];
        if ($source > 0) {
            $where .= ' AND w.source_id = ?';
            $values[] = $source;
        }
        if (null !== $entries) {
            $where .= ' AND w.entry_id IN (?)';
            $types[\count($values)] = ArrayParameterType::INTEGER;
            $values[] = [] === $entries ? [0] : $entries;
        }

        return [$where, $values, $types];
    }

    /**
     * @param array<string, mixed> $row
     *
     * @return Item
     */
    private static function item(array $row): array
    {
        return [
            'topic' => Row::text($row, 'topic'), 'id' => Row::int($row, 'topic_id'), 'entry' => Row::int($row, 'entry_id'), 'source' => Row::int($row,
                'source_id'),
            'worth' => -(float) Row::text($row, 'place'), 'drafted' => 1 === Row::int($row, 'drafted'), 'why' => array_values(array_filter(Row::json($row,
                'why'), is_string(...))),
        ];
    }
}
