<?php

declare(strict_types=1);

namespace Fasti\Bench\Real;

use Fasti\Bench\Joins\Fit;
use Fasti\Bench\Joins\Known;
use Fasti\Core\Join\Candidate;
use Fasti\Core\Join\Chooser;
use Fasti\Core\Join\Whole;

/** How the references that a schema declares are led when it declares none. */
final class Measure
{
    /** Declared references, and those of them whose target comes first with 0.5 or more. */
    public int $declared = 0;
    public int $first = 0;
    /** Those for which the first choice has 0.9 or more, and how many of these are right. */
    public int $sure = 0;
    public int $sureRight = 0;
    /** @var array<int, array{int, int}> tenth → proposals, and those that are true */
    public array $tenths = [];
    /** @var list<string> those led elsewhere, with what they were led to */
    public array $missed = [];
    /** @var list<string> proposals of 0.5 and more that are declared nowhere */
    public array $further = [];
    public int $said = 0;
    public int $right = 0;
    private int $true = 0;

    /**
     * @param ?Chooser            $chooser null where they have been weighed
     * @param array<string, bool> $judged  join → whether a reader found it true
     */
    public function __construct(public readonly string $name, Known $known, ?Chooser $chooser, array $judged = [])
    {
        if (null !== $chooser) {
            Whole::weigh($known->units, $known->candidates, $chooser);
        }
        $this->choices($known);
        $this->proposals($known, $judged);
    }

    public function share(): float
    {
        return $this->first / max(1, $this->declared);
    }

    /** Of what is said with 0.5 and more, against what is declared or was judged true. */
    public function f1(): float
    {
        return 2 * $this->right / max(1, $this->said + $this->true);
    }

    private function choices(Known $known): void
    {
        foreach (References::of($known->catalog) as $reference) {
            ++$this->declared;
            $found = $this->led($known, $reference);
            $best = $found[0] ?? null;
            $p = $best->confidence ?? 0.0;
            $right = null !== $best && $reference->isThat(Fit::joinOf($best, $known));
            if ($p >= 0.9) {
                ++$this->sure;
                $this->sureRight += $right ? 1 : 0;
            }
            if ($right && $p >= 0.5) {
                ++$this->first;
                continue;
            }
            $this->missed[] = \sprintf('%s: %s', $reference, implode('; ', array_map(
                static fn (Candidate $one): string => \sprintf('%s%.2f %s', $reference->isThat(Fit::joinOf($one, $known)) ? '*' : '', $one->confidence,
                    $known->candidates->tables[$one->to]->name.'.'.implode(',', $one->key->columns)),
                \array_slice($found, 0, 4),
            )) ?: 'nothing');
        }
    }

    /** @return list<Candidate> for the fields of a reference, or any of them alone, the likeliest first */
    private function led(Known $known, References $reference): array
    {
        $found = [];
        foreach ($known->units as $unit) {
            foreach ($unit as $candidate) {
                $columns = $candidate->columns;
                sort($columns);
                if ($candidate->from === $known->candidates->tableAt($reference->from) && $columns === $reference->columns) {
                    $found[] = $candidate;
                }
            }
        }
        usort($found, static fn (Candidate $a, Candidate $b): int => $b->confidence <=> $a->confidence);

        return $found;
    }

    /** @param array<string, bool> $judged */
    private function proposals(Known $known, array $judged): void
    {
        $all = array_fill_keys(array_map(static fn (string $join): string => str_replace("\0", '.', $join), array_keys($known->truth)), true);
        $this->true = \count($all + array_filter($judged));
        foreach ($known->units as $unit) {
            foreach ($unit as $candidate) {
                if ($candidate->confidence < 0.1) {
                    continue;
                }
                $join = Fit::joinOf($candidate, $known);
                $true = isset($known->truth[$join]) || ($judged[str_replace("\0", '.', $join)] ?? false);
                $tenth = min(9, (int) floor(10 * $candidate->confidence));
                $this->tenths[$tenth] = [($this->tenths[$tenth][0] ?? 0) + 1, ($this->tenths[$tenth][1] ?? 0) + ($true ? 1 : 0)];
                if ($candidate->confidence >= 0.5) {
                    ++$this->said;
                    $this->right += $true ? 1 : 0;
                    if (!$true) {
                        $this->further[] = \sprintf('%.2f %s', $candidate->confidence, str_replace("\0", '.', $join));
                    }
                }
            }
        }
        rsort($this->further);
    }
}
