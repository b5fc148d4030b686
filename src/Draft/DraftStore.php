<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Draft\Draft;
use Fasti\Support\Again;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/**
 * Drafts as they were made last, and what people decided about them. Of: topic → id → property → drafts, the surest first.
 *
 * @phpstan-type Of array<string, array<int, array<string, list<Draft>>>>
 */
final readonly class DraftStore
{
    /** A rule sinks with what is dismissed, but not on a whim: so many decisions of the usual kind are counted besides. */
    private const USUAL = 12;

    public function __construct(private Connection $db)
    {
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, Of> by entry
     */
    public function of(array $entries): array
    {
        $found = [];
        if ([] !== $entries) {
            $rows = $this->db->iterateAssociative('SELECT * FROM draft WHERE entry_id IN (?) ORDER BY place', [$entries], [ArrayParameterType::INTEGER]);
            foreach ($rows as $row) {
                $found[Row::int($row, 'entry_id')][Row::text($row, 'topic')][Row::int($row, 'topic_id')][Row::text($row, 'property')][] = self::read($row);
            }
        }

        return $found;
    }

    public function one(string $topic, int $id, string $property, string $evidence): ?Draft
    {
        $row = $this->db->fetchAssociative(
            'SELECT * FROM draft WHERE topic = ? AND topic_id = ? AND property = ? AND evidence = ?',
            [$topic, $id, $property, $evidence],
        );

        return false === $row ? null : self::read($row);
    }

    /** @param array<string, mixed> $row */
    private static function read(array $row): Draft
    {
        $because = array_values(array_filter(Row::json($row, 'because'), is_string(...)));

        return new Draft(Row::text($row, 'property'), Row::text($row, 'text'), (float) Row::text($row, 'confidence'), $because, Row::text($row, 'rule'));
    }

    /**
     * Replaces the drafts of entries.
     *
     * @param array<int, Of> $drafts by entry
     */
    public function replace(array $drafts): void
    {
        Again::transaction($this->db, function () use ($drafts): void {
            foreach (array_chunk(array_keys($drafts), Batch::SIZE) as $chunk) {
                $this->db->executeStatement('DELETE FROM draft WHERE entry_id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
                $rows = $made = [];
                foreach ($chunk as $entry) {
                    $made[] = [$entry, 0, gmdate('Y-m-d H:i:s')];
                    foreach ($drafts[$entry] as $topic => $ids) {
                        foreach ($ids as $id => $properties) {
                            foreach ($properties as $property => $of) {
                                foreach (\array_slice($of, 0, 3) as $place => $draft) {
                                    $rows[] = [
                                        $topic, $id, $property, $place, $entry, $draft->text, (string) $draft->confidence, Batch::json($draft->because),
                                        $draft->rule, $draft->evidence(),
                                    ];
                                }
                            }
                        }
                    }
                }
                Batch::insert($this->db, 'INSERT INTO draft (topic, topic_id, property, place, entry_id, text, confidence, because, rule, evidence) VALUES',
                    $rows);
                Batch::insert($this->db, 'INSERT INTO drafts_made (entry_id, stale, at) VALUES', $made, 'ON DUPLICATE KEY UPDATE stale = 0, at = VALUES(at)');
            }
        });
    }

    /**
     * @param list<int> $entries
     *
     * @return list<int> those whose drafts were never made, or are out of date
     */
    public function outdated(array $entries): array
    {
        $fresh = [] === $entries ? [] : $this->db->fetchFirstColumn(
            'SELECT entry_id FROM drafts_made WHERE stale = 0 AND entry_id IN (?)',
            [$entries],
            [ArrayParameterType::INTEGER],
        );

        return array_values(array_diff($entries, array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $fresh)));
    }

    /** @param list<int> $entries what their drafts are made from has changed */
    public function stale(array $entries): void
    {
        if ([] !== $entries) {
            $this->db->executeStatement('UPDATE drafts_made SET stale = 1 WHERE entry_id IN (?)', [$entries], [ArrayParameterType::INTEGER]);
        }
    }

    /** A text is written: there is nothing to propose any more. */
    public function drop(string $topic, int $id, string $property): void
    {
        $this->db->executeStatement('DELETE FROM draft WHERE topic = ? AND topic_id = ? AND property = ?', [$topic, $id, $property]);
    }

    public function decided(string $topic, int $id, string $property, Draft $draft, bool $taken, Account $account): void
    {
        $this->db->executeStatement(
            'INSERT INTO draft_decision (topic, topic_id, property, rule, evidence, taken, account_id, at) VALUES (?, ?, ?, ?, ?, ?, ?, UTC_TIMESTAMP())',
            [$topic, $id, $property, $draft->rule, $draft->evidence(), $taken ? 1 : 0, $account->id()],
        );
    }

    /** Whoever dismissed a draft looks at it again. */
    public function undismiss(string $topic, int $id, string $property): void
    {
        $this->db->executeStatement('DELETE FROM draft_decision WHERE topic = ? AND topic_id = ? AND property = ? AND taken = 0', [$topic, $id, $property]);
    }

    /**
     * @param list<int> $ids
     *
     * @return array<int, array<string, array<string, true>>> id → property → evidence of what was dismissed
     */
    public function dismissed(string $topic, array $ids): array
    {
        $dismissed = [];
        if ([] !== $ids) {
            $rows = $this->db->iterateAssociative(
                'SELECT topic_id, property, evidence FROM draft_decision WHERE topic = ? AND topic_id IN (?) AND taken = 0',
                [$topic, $ids],
                [1 => ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $dismissed[Row::int($row, 'topic_id')][Row::text($row, 'property')][Row::text($row, 'evidence')] = true;
            }
        }

        return $dismissed;
    }

    /** @return array<string, float> rule → what its confidence is multiplied by, for those that are dismissed more often than drafts usually are */
    public function weights(): array
    {
        $weights = [];
        $rows = $this->db->iterateAssociative('SELECT rule, SUM(taken) AS taken, COUNT(*) AS n FROM draft_decision GROUP BY rule');
        foreach ($rows as $row) {
            $share = (Row::int($row, 'taken') + 0.85 * self::USUAL) / (Row::int($row, 'n') + self::USUAL);
            if ($share < 0.8) {
                $weights[Row::text($row, 'rule')] = round($share / 0.85, 3);
            }
        }

        return $weights;
    }

    /** @param list<int> $changes */
    public function took(Account $account, array $changes, string $text): int
    {
        $this->db->executeStatement(
            'INSERT INTO taking (account_id, at, changes, text) VALUES (?, UTC_TIMESTAMP(), ?, ?)',
            [$account->id(), Batch::json($changes), mb_strimwidth($text, 0, 400, '…')],
        );

        return (int) $this->db->lastInsertId();
    }

    /** @return list<int>|null changes of a taking that was not taken back */
    public function taking(int $id): ?array
    {
        $changes = $this->db->fetchOne('SELECT changes FROM taking WHERE id = ? AND undone_at IS NULL FOR UPDATE', [$id]);
        $list = \is_string($changes) ? json_decode($changes, true) : null;

        return \is_array($list) ? array_values(array_map(intval(...), array_filter($list, is_numeric(...)))) : null;
    }

    public function undone(int $id): void
    {
        $this->db->executeStatement('UPDATE taking SET undone_at = UTC_TIMESTAMP() WHERE id = ?', [$id]);
    }

    /**
     * What was taken in one go, the latest first.
     *
     * @return list<array{id: int, account: int, at: string, places: int, text: string, undone: bool}>
     */
    public function takings(int $most): array
    {
        return array_map(static fn (array $row): array => [
            'id' => Row::int($row, 'id'), 'account' => Row::int($row, 'account_id'), 'at' => Row::text($row, 'at'),
            'places' => \count(Row::json($row, 'changes')), 'text' => Row::text($row, 'text'), 'undone' => null !== $row['undone_at'],
        ], $this->db->fetchAllAssociative('SELECT * FROM taking ORDER BY id DESC LIMIT '.$most));
    }

    /** How many drafts were taken by somebody since a moment. */
    public function takenSince(Account $account, string $moment): int
    {
        return Row::int(
            ['n' => $this->db->fetchOne('SELECT COUNT(*) FROM draft_decision WHERE account_id = ? AND taken = 1 AND at >= ?', [$account->id(), $moment])],
            'n',
        );
    }

    /**
     * @param list<int> $entries
     *
     * @return array<string, array<int, string>> topic → id → the business name that is proposed
     */
    public function proposedNames(array $entries): array
    {
        $names = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            $rows = $this->db->iterateAssociative(
                "SELECT topic, topic_id, text FROM draft WHERE entry_id IN (?) AND property = 'businessName' AND place = 0",
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $names[Row::text($row, 'topic')][Row::int($row, 'topic_id')] = Row::text($row, 'text');
            }
        }

        return $names;
    }

    /**
     * @param list<int> $entries
     *
     * @return array<string, array<int, true>> topic → id of what has a draft of its meaning
     */
    public function withMeaning(array $entries): array
    {
        $with = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            $rows = $this->db->iterateAssociative(
                "SELECT topic, topic_id FROM draft WHERE entry_id IN (?) AND property = 'meaning' AND place = 0",
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $with[Row::text($row, 'topic')][Row::int($row, 'topic_id')] = true;
            }
        }

        return $with;
    }
}
