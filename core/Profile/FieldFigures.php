<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Privacy\Privacy;

/**
 * Puts the profile of a field together, from figures over all its rows and from the values of some.
 *
 * @phpstan-import-type Figures from SqlProfiler
 */
final class FieldFigures
{
    private const MOST_FREQUENT = 20;
    /** What is read of a value in a sample, at the most. */
    public const CUT = 200;
    private const LONGEST_SHOWN = 80;
    private const MOST_BREAKING = 8;

    /** @param string $decision whether it is personal: yes or no, as a steward has said; '' to work it out */
    public function __construct(
        private readonly string $table,
        private readonly Column $column,
        private readonly TypeFamily $family,
        private readonly string $decision,
    ) {
    }

    /**
     * @param Figures                $figures
     * @param list<string>           $values   of a sample, neither null nor blank
     * @param ?array<array-key, int> $frequent counted over all rows; null to count the sample
     * @param ?Check                 $check    what came of looking for values that are not allowed
     * @param array{lists: int, empty: int, fewest: int, most: int, average: float}|null $lists of documents
     */
    public function field(int $rows, array $figures, array $values, ?array $frequent, ?Check $check = null, ?array $lists = null): FieldProfile
    {
        $filled = $figures['values'] - $figures['blank'];
        $longest = $figures['longest'] ?? ([] === $values ? 0 : max(array_map(mb_strlen(...), $values)));
        [$likely, $percent] = Likely::kind($this->family, $values, $rows, $filled, $figures['distinct'], $longest);
        $reason = Privacy::reason($this->table, $this->column->name, $likely, \array_slice($values, 0, 500), $this->decision);
        $personal = '' !== $reason;
        $of = null === $frequent ? \count($values) : $filled;
        $frequent ??= self::frequentInSample($values, $filled);
        arsort($frequent);
        $shown = self::shortened(\array_slice($frequent, 0, self::MOST_FREQUENT, true));
        $spread = $personal ? null : $this->spread($values, $likely);
        $short = static fn (?string $value): ?string => null === $value || $personal ? null : mb_strimwidth($value, 0, self::LONGEST_SHOWN, '…');
        $unshown = $personal || 'identifier' === $likely;

        return new FieldProfile(
            $rows,
            $figures['values'],
            $figures['blank'],
            $figures['distinct'],
            $short($figures['least']),
            $short($figures['greatest']),
            $figures['shortest'],
            $figures['longest'],
            null === $figures['average'] ? null : round($figures['average'], 1),
            $unshown ? [] : $shown,
            $unshown ? 0 : $of,
            $spread->steps ?? [],
            TypeFamily::Text === $this->family && !Privacy::isSecret($reason) ? TextShape::counted(\array_slice($values, 0, 5000)) : [],
            $likely,
            $percent,
            $reason,
            $spread->beyond ?? 0,
            $check->text ?? '',
            $check?->broken,
            $personal || null === $check ? [] : self::shortened(\array_slice($check->breaking, 0, self::MOST_BREAKING, true)),
            $lists,
        );
    }

    /** @param list<string> $values */
    private function spread(array $values, string $likely): ?Histogram
    {
        $time = TypeFamily::Time === $this->family || 'date kept as text' === $likely;
        if (!$time && !$this->family->isNumeric() || 'identifier' === $likely && TypeFamily::Whole !== $this->family) {
            return null;
        }

        return Histogram::of($values, $time);
    }

    /**
     * @param list<string> $values of the sample
     * @param int          $filled how many there are in all
     *
     * @return array<array-key, int> value → how often, the most frequent first
     */
    public static function frequentInSample(array $values, int $filled): array
    {
        $frequent = array_count_values(\array_slice($values, 0, 50000));
        $of = \count($values);
        // A value that stands once in a sample says nothing about how often it stands in all.
        // Nor does one of many values that all stand about equally often.
        $least = \count($frequent) <= 200 ? 0 : 0.005 * $of;
        $frequent = array_filter($frequent, static fn (int $count): bool => ($count > 1 || $of >= $filled) && $count >= $least);
        // Of long values a sample has only the beginning, and several may begin alike.
        $frequent = array_filter($frequent, static fn (string|int $value): bool => self::CUT !== mb_strlen((string) $value), \ARRAY_FILTER_USE_KEY);
        arsort($frequent);

        return \array_slice($frequent, 0, 3 * self::MOST_FREQUENT, true);
    }

    /**
     * Long values are cut for showing; those that begin alike keep a count of their own, told apart by a number.
     *
     * @param array<array-key, int> $counts
     *
     * @return array<string, int>
     */
    private static function shortened(array $counts): array
    {
        $shown = [];
        foreach ($counts as $value => $count) {
            $short = $start = mb_strimwidth((string) $value, 0, self::LONGEST_SHOWN, '…');
            for ($i = 2; \array_key_exists($short, $shown); ++$i) {
                $short = mb_strimwidth($start, 0, self::LONGEST_SHOWN - 5, '…').' ('.$i.')';
            }
            $shown[$short] = $count;
        }

        return $shown;
    }
}
