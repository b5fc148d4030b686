<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Wording\Amount;

/**
 * How much it is worth to describe something, and why. What many joins lead to, what stands on diagrams, what has many rows and
 * what was looked for in vain comes first; each by its logarithm, so that no single figure decides alone. What belongs to the entry
 * weighs more than what belongs to the field: the fields of an entry are then described one after the other.
 */
final class Worth
{
    private const JOIN = 2.0;
    private const DIAGRAM = 1.5;
    private const ROWS = 0.4;
    private const SOUGHT = 2.5;
    private const ALIKE = 0.15;

    /** An entry is described before its fields. */
    private const WHOLE = 0.35;

    /**
     * @param int  $joins    that lead to the entry or from it
     * @param int  $diagrams that show it
     * @param int  $alike    fields of the same name, this one included; 0 for an entry
     * @param int  $sought   how often it was looked for in vain
     *
     * @return array{float, list<string>} and why, the weightiest first
     */
    public static function of(int $joins, int $rows, int $diagrams, int $alike, int $sought): array
    {
        $parts = [
            [self::JOIN * log($joins + 1, 2), $joins > 0 ? Amount::of($joins,
                'join').(1 === $joins ? ' leads to its entry or from it' : ' lead to its entry or from it') : ''],
            [self::SOUGHT * log($sought + 1, 2), $sought > 0 ? 'looked for in vain '.(1 === $sought ? 'once' : "$sought times") : ''],
            [self::DIAGRAM * log($diagrams + 1, 2), $diagrams > 0 ? Amount::of($diagrams, 'diagram').(1 === $diagrams ? ' shows it' : ' show it') : ''],
            [self::ROWS * log10($rows + 1), $rows >= 1000 ? Amount::of($rows, 'row') : ''],
            [min(0.3, self::ALIKE * log(max(1, $alike), 2)), $alike > 2 ? Amount::of($alike, 'field').' are called so' : ''],
        ];
        $worth = 0 === $alike ? self::WHOLE : 0.0;
        foreach ($parts as [$weight]) {
            $worth += $weight;
        }
        usort($parts, static fn (array $a, array $b): int => $b[0] <=> $a[0]);

        return [round($worth, 4), array_values(array_filter(array_column($parts, 1), static fn (string $why): bool => '' !== $why))];
    }
}
