<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;

/** The joins of a catalog that nothing declares, by confidence: names, types and keys; the data where it may be asked. */
final class Proposals
{
    /** What is less likely is not proposed. */
    public const LEAST = 0.1;

    /** @var list<string> what could not be looked at, in sentences */
    public array $notes = [];

    /** @param float $budget seconds for looking at the data */
    public function __construct(private readonly float $budget = 300.0)
    {
    }

    /**
     * @param ?Rows                 $source where the data may be asked
     * @param array<string, string> $queries that were handed in: name → text
     * @param array<string, true>   $dismissed identities, see identity(); they are left out, and lower what is like them
     *
     * @return list<Proposal> the likeliest first
     */
    public function of(Catalog $catalog, ?Rows $source = null, array $queries = [], array $dismissed = [], Progress $progress = new SilentProgress()): array
    {
        $this->notes = [];
        $progress->at('names, types and keys', 0, 0);
        $candidates = new Candidates($catalog);
        $units = $candidates->all(ReadHints::of($catalog, $queries));
        $declared = $this->declare($units, $candidates);
        $dialect = Dialects::ofCatalog($catalog);
        $values = null === $source || null === $dialect->profiling() ? null : new KeyValues($source, $dialect);
        $chooser = Chooser::fitted(null !== $values);
        Whole::weigh($units, $candidates, $chooser);
        if (null !== $values) {
            $look = new DataLook($values, $candidates, $this->budget);
            $units = $look->look($units, $chooser, $progress);
            $this->notes = $look->notes;
        }
        $cases = new Cases($candidates, $values);
        $found = [];
        $byUnit = $cases->all();
        array_push($this->notes, ...$cases->notes);
        foreach ($byUnit as $unit => $of) {
            if (!isset($declared[$unit])) {
                unset($units[$unit]);
                array_push($found, ...array_filter($of, static fn (Proposal $one): bool => $one->confidence >= self::LEAST));
            }
        }
        $words = new EvidenceWords($candidates, $chooser);
        foreach (array_diff_key($units, $declared) as $of) {
            foreach ($of as $candidate) {
                if ($candidate->confidence >= self::LEAST) {
                    $found[] = new Proposal(
                        $candidates->tables[$candidate->from]->place(), $candidate->columns, $candidate->key->table->place(), $candidate->key->columns,
                        $candidate->confidence, $words->of($candidate), null, $candidate->data,
                    );
                }
            }
        }
        $found = self::without($this->lowered($found, $dismissed), $dismissed);
        usort($found, static fn (Proposal $a, Proposal $b): int => $b->confidence <=> $a->confidence ?: strcmp(self::identity($a), self::identity($b)));
        $this->notes = array_values(array_unique($this->notes));

        return $found;
    }

    /** Equal for the same fields at both ends and the same condition. */
    public static function identity(Proposal $proposal): string
    {
        return implode(
            "\0",
            [
                $proposal->from->key(),
                implode("\1", $proposal->columns),
                $proposal->to->key(),
                implode("\1", $proposal->toColumns),
                $proposal->condition() ?? '',
            ],
        );
    }

    /**
     * What the catalog declares is certain, and so is everything that follows from it for the rest.
     *
     * @param array<string, list<Candidate>> $units
     *
     * @return array<string, true> units that lead somewhere by declaration
     */
    private function declare(array &$units, Candidates $candidates): array
    {
        $declared = [];
        foreach ($candidates->tables as $i => $table) {
            foreach ($table->foreignKeys as $foreign) {
                $j = $candidates->tableAt($foreign->references->place()->key());
                $certain = null === $j ? null : $this->certain($i, $j, $candidates->tables[$j], $foreign);
                foreach (self::orders($foreign->columns, $foreign->references->columns, $certain) as $columns) {
                    $declared[Candidates::unit($i, $columns)] = true;
                }
                if (null !== $certain) {
                    $units[Candidates::unit($i, $certain->columns)] = [$certain];
                }
            }
        }

        return $declared;
    }

    private function certain(int $i, int $j, Table $to, ForeignKey $foreign): Candidate
    {
        $key = new JoinKey($to, $foreign->references->columns, JoinKey::PRIMARY);
        foreach (JoinKey::of($to) as $known) {
            $at = array_map(static fn (string $column): int|false => array_search($column, $foreign->references->columns, true), $known->columns);
            if (!\in_array(false, $at, true) && \count($known->columns) === \count($foreign->columns)) {
                $columns = array_map(static fn (int|false $k): string => $foreign->columns[(int) $k], $at);

                return new Candidate($i, $columns, $known, $j, [], confidence: 1.0, certain: true);
            }
        }

        return new Candidate($i, $foreign->columns, $key, $j, [], confidence: 1.0, certain: true);
    }

    /**
     * @param non-empty-list<string> $columns
     * @param non-empty-list<string> $references
     *
     * @return list<non-empty-list<string>>
     */
    private static function orders(array $columns, array $references, ?Candidate $certain): array
    {
        return null === $certain ? [$columns] : [$columns, $certain->columns];
    }

    /**
     * Of what leads by the same name to the same place as one that was dismissed, the confidence is lowered.
     *
     * @param list<Proposal>      $found
     * @param array<string, true> $dismissed identities
     *
     * @return list<Proposal>
     */
    public function lowered(array $found, array $dismissed): array
    {
        $like = static fn (Proposal $one): string => implode("\1", array_map(strtolower(...), $one->columns))."\0".$one->to->key();
        $names = [];
        foreach ([] === $dismissed ? [] : $found as $proposal) {
            if (isset($dismissed[self::identity($proposal)])) {
                $names[$like($proposal)] = true;
            }
        }
        $lowered = [];
        foreach ($found as $proposal) {
            if (isset($names[$like($proposal)]) && !isset($dismissed[self::identity($proposal)])) {
                $odds = 0.25 * $proposal->confidence / max(1e-6, 1 - $proposal->confidence);
                $proposal = new Proposal(
                    $proposal->from, $proposal->columns, $proposal->to, $proposal->toColumns, $odds / (1 + $odds),
                    [...$proposal->evidence, new Evidence('a steward has dismissed the same in another table', -1.4)], $proposal->where, $proposal->data,
                );
            }
            $lowered[] = $proposal;
        }

        return $lowered;
    }

    /**
     * @param list<Proposal>      $found
     * @param array<string, true> $dismissed
     *
     * @return list<Proposal>
     */
    private static function without(array $found, array $dismissed): array
    {
        return array_values(
            array_filter($found, static fn (Proposal $one): bool => $one->confidence >= self::LEAST && !isset($dismissed[self::identity($one)])),
        );
    }
}
