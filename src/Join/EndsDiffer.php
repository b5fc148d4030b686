<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Join\End;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\DossierCheck;
use Fasti\Finding\Noticed;
use Fasti\Register\Dossier;
use Fasti\Register\FieldView;

/** The data has other rows at the end of a join than the database allows for. */
final class EndsDiffer implements DossierCheck
{
    /** With fewer rows, nothing follows from them. */
    private const ROWS = 20;

    public function name(): string
    {
        return 'ends-differ';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'What holds in all rows may be meant to hold, and what never happens need not be provided for.';
    }

    public function mend(): string
    {
        return 'Say on the page of the join how many rows may stand at each end.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return Amount::of($count, 'end of a join').' '.(1 === $count ? 'is' : 'are').' otherwise in the data than the database allows for';
    }

    public function about(): array
    {
        return ['decision'];
    }

    public function of(Dossier $dossier): iterable
    {
        $known = $dossier->part(JoinsKnown::class);
        if (null === $known) {
            return;
        }
        foreach ($dossier->entry->countedJoins() as $join) {
            $figures = $known->of($join->id)?->figures;
            if (null === $figures || !$join->out || $figures->rows < self::ROWS || null !== $join->where) {
                continue;
            }
            $optional = End::NoneOrOne === $join->cardinality->to;
            $field = array_values(
                array_filter($dossier->entry->presentFields(), static fn (FieldView $field): bool => $field->name === ($join->pairs[0][0] ?? '')),
            )[0] ?? null;
            $words = match (true) {
                $optional && 0 === $figures->empty + $figures->orphans => \sprintf(
                    '%s may be empty, and never is, in %s',
                    $join->columns(),
                    Amount::of($figures->rows, 'row'),
                ),
                $optional && $figures->empty === $figures->rows => \sprintf(
                    '%s is empty in all %s: nothing is joined by it',
                    $join->columns(),
                    Amount::of($figures->rows, 'row'),
                ),
                !$optional && $figures->orphans > 0 => \sprintf(
                    '%s of %s lead nowhere by %s',
                    Amount::count($figures->orphans),
                    Amount::of($figures->rows, 'row'),
                    $join->columns(),
                ),
                $optional && $figures->orphans > 0 => \sprintf(
                    '%s of %s lead to what is not there, by %s',
                    Amount::count($figures->orphans),
                    Amount::of($figures->rows, 'row'),
                    $join->columns(),
                ),
                default => '',
            };
            if ('' !== $words) {
                yield new Noticed($dossier->entry->id, $field?->id, $words);
            }
        }
    }
}
