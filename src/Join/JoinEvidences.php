<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Join\Evidence;
use Fasti\Core\Join\EvidenceKind;
use Fasti\Core\Join\JoinFigures;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/** What speaks for joins, examples of their rows, and what was counted. */
final readonly class JoinEvidences
{
    public function __construct(private Connection $db)
    {
    }

    /**
     * @param array<int, list<Evidence>> $evidence by join
     *
     * @return list<int> joins whose evidence is another than it was
     */
    public function keep(array $evidence): array
    {
        $before = [];
        foreach (array_chunk(array_keys($evidence), Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative(
                'SELECT join_id, digest FROM join_evidence WHERE join_id IN (?)',
                [$chunk],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $before[Row::int($row, 'join_id')] = Row::text($row, 'digest');
            }
        }
        $rows = $changed = [];
        foreach ($evidence as $join => $of) {
            $digest = self::digest($of);
            if ('' !== ($before[$join] ?? '') && $digest !== $before[$join]) {
                $changed[] = $join;
            }
            $rows[] = [
                $join,
                Batch::json(array_map(static fn (Evidence $one): array => [$one->words, round($one->weight, 2), $one->kind->value, $one->none], $of)),
                $digest,
                '[]',
                gmdate('Y-m-d H:i:s'),
            ];
        }
        Batch::insert($this->db, 'INSERT INTO join_evidence (join_id, evidence, digest, examples, looked_at) VALUES', $rows,
            'ON DUPLICATE KEY UPDATE evidence = VALUES(evidence), digest = VALUES(digest), looked_at = VALUES(looked_at)');

        return $changed;
    }

    /**
     * Of what is said, figures aside: rows that come and go are no new evidence.
     *
     * @param list<Evidence> $evidence
     */
    private static function digest(array $evidence): string
    {
        $words = array_map(
            static fn (Evidence $one): string => (string) preg_replace(
                '/\d[\d,]*/',
                '#',
                $one->words,
            ).(match (true) {
                $one->weight < -0.5 => '-',
                $one->weight > 0.5 => '+',
                default => '',
            }),
            $evidence,
        );
        sort($words);

        return hash('xxh128', implode("\n", $words));
    }

    /** @param list<array<string, mixed>> $examples see Examples */
    public function example(int $join, array $examples): void
    {
        $this->db->executeStatement(
            "INSERT INTO join_evidence (join_id, evidence, digest, examples, looked_at) VALUES (?, '[]', '', ?, UTC_TIMESTAMP())
                ON DUPLICATE KEY UPDATE examples = VALUES(examples), looked_at = VALUES(looked_at)",
            [$join, Batch::json($examples)],
        );
    }

    private static function kind(mixed $written): EvidenceKind
    {
        return \is_string($written) ? EvidenceKind::tryFrom($written) ?? EvidenceKind::Structure : EvidenceKind::Structure;
    }

    public function observe(int $join, JoinFigures $figures): void
    {
        $this->db->executeStatement(
            "INSERT INTO join_evidence (join_id, evidence, digest, examples, figures, observed_at) VALUES (?, '[]', '', '[]', ?, UTC_TIMESTAMP())
                ON DUPLICATE KEY UPDATE figures = VALUES(figures), observed_at = VALUES(observed_at)",
            [$join, Batch::json($figures->toArray())],
        );
    }

    /**
     * @param list<int> $joins
     *
     * @return array<int, Known> by join
     */
    public function of(array $joins): array
    {
        $found = [];
        foreach (array_chunk($joins, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative('SELECT * FROM join_evidence WHERE join_id IN (?)', [$chunk], [ArrayParameterType::INTEGER]) as $row) {
                $figures = null === $row['figures'] ? null : JoinFigures::fromArray(Row::json($row, 'figures'));
                $evidence = [];
                foreach (Row::json($row, 'evidence') as $one) {
                    if (\is_array($one) && \is_string($one[0] ?? null) && is_numeric($one[1] ?? null)) {
                        $read = new Evidence($one[0], (float) $one[1], self::kind($one[2] ?? ''), \is_string($one[3] ?? null) ? $one[3] : '');
                        $evidence[] = null === $figures ? $read : $read->by($figures);
                    }
                }
                $found[Row::int($row, 'join_id')] = new Known(
                    $evidence, Examples::read(Row::json($row, 'examples')), null === $row['looked_at'] ? null : Row::text($row, 'looked_at'), $figures,
                    null === $row['observed_at'] ? null : Row::text($row, 'observed_at'),
                );
            }
        }

        return $found;
    }
}
