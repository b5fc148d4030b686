<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Account\Account;
use Fasti\Core\Join\EvidenceKind;
use Fasti\Register\JoinKind;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Text\History;

/** What would be taken if many proposals were taken at once, so that it is looked at before. */
final readonly class Bulk
{
    /** What speaks for a proposal, the weakest first → how it is told. */
    public const GROUPS = [
        'names' => 'Names, types and keys alone say so',
        'partly' => 'The data says so for most rows, and some lead nowhere',
        'data' => 'The data says so as well',
        'used' => 'Views, routines or queries join so already',
    ];
    /** So many are shown; the rest is taken another time. */
    public const MOST = 500;

    public function __construct(private Joins $joins, private JoinEvidences $evidences, private History $history)
    {
    }

    /** @return list<BulkJoin> proposals of a source (0: of all) that are at least so likely, the weakest first */
    public function of(int $source, float $least): array
    {
        $waiting = array_values(array_filter(
            0 === $source ? $this->joins->everywhere() : $this->joins->ofSource($source),
            static fn (JoinView $join): bool => JoinKind::Proposed === $join->kind && null !== $join->confidence,
        ));
        $known = $this->evidences->of(array_map(static fn (JoinView $join): int => $join->id, $waiting));
        $groups = array_map(static fn (Known $one): string => self::group($one), $known);
        // Where the data was asked and says nothing of a join, names alone are too little.
        $asked = [] !== array_intersect(['data', 'partly'], $groups);
        $found = [];
        foreach ($waiting as $join) {
            if ($join->confidence >= $least) {
                $group = $groups[$join->id] ?? 'names';
                $found[] = new BulkJoin($join, $group, 'names' !== $group || !$asked, self::most($known[$join->id] ?? new Known()));
            }
        }
        usort($found, static fn (BulkJoin $a, BulkJoin $b): int => [$a->join->confidence, $a->join->id] <=> [$b->join->confidence, $b->join->id]);

        return \array_slice($found, 0, self::MOST);
    }

    private static function most(Known $known): string
    {
        return [] === $known->evidence ? '' : $known->evidence[0]->words;
    }

    private static function group(Known $known): string
    {
        $group = 'names';
        foreach ($known->evidence as $one) {
            if (EvidenceKind::Used === $one->kind) {
                return 'used';
            }
            if (EvidenceKind::Found === $one->kind) {
                $group = $one->weight > 0 ? 'data' : 'partly';
            }
        }

        return $group;
    }

    /** What a person has decided about proposals of a source so far. */
    public function record(Account $account, int $source): DecisionRecord
    {
        $chosen = $this->history->chosen('join', JoinProperties::DECISION, $account);
        if (0 !== $source) {
            $ids = array_map(static fn (JoinView $join): int => $join->id, [...$this->joins->ofSource($source), ...$this->joins->dismissed($source)]);
            $chosen = array_intersect_key($chosen, array_flip($ids));
        }
        $counts = array_count_values($chosen);

        return new DecisionRecord($counts[JoinKind::Documented->value] ?? 0, $counts[JoinProperties::DISMISSED] ?? 0);
    }
}
