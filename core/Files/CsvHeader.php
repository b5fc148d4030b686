<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

/**
 * Whether the first row of a CSV file names the columns, and how they are called.
 *
 * Names differ from what stands under them: a text over numbers or dates is a name, a number over numbers is none. Where all
 * is text, a row is data if its values stand again in their columns, or are shaped as all the others are.
 */
final readonly class CsvHeader
{
    /** Rows that are looked at below the first. */
    public const LOOKED = 60;
    private const LEAST_SERIES = 5;
    private const YEARS = '/^(?:1[89]|20|21)\d\d$/';

    /**
     * @param list<string> $names of the columns, each once
     * @param bool         $named whether the first row gives them
     * @param string       $why   what speaks against it, in words
     * @param list<string> $notes what was done to names that are missing or stand twice
     */
    private function __construct(public array $names, public bool $named, public string $why, public array $notes)
    {
    }

    /**
     * @param list<string>       $first in UTF-8
     * @param list<list<string>> $rows  some of those that follow
     */
    public static function of(array $first, array $rows): self
    {
        $why = self::against($first, $rows);
        $names = $notes = [];
        $written = array_map(trim(...), $first);
        foreach ($written as $i => $value) {
            $place = 'column '.($i + 1);
            $stem = '' === $why && '' !== $value ? $value : $place;
            for ($name = $stem, $n = 2; \in_array($name, $names, true) || ($n > 2 || '' === $value) && \in_array($name, $written, true) && '' === $why; ++$n) {
                $name = $stem.' '.$n;
            }
            $names[] = $name;
            if ('' === $why && '' === $value) {
                $notes[] = \sprintf('%s has no name and is called “%s”', $place, $name);
            } elseif ('' === $why && $name !== $value) {
                $notes[] = \sprintf('%s is called “%s” as another one is; it is told apart as “%s”', $place, $value, $name);
            }
        }

        return new self($names, '' === $why, $why, $notes);
    }

    /**
     * @param list<string>       $first
     * @param list<list<string>> $rows
     *
     * @return string '' where the row looks like names
     */
    private static function against(array $first, array $rows): string
    {
        $filled = array_filter($first, static fn (string $value): bool => '' !== trim($value));
        if ([] === $filled) {
            return 'it is empty';
        }
        $typed = array_filter($filled, static fn (string $value): bool => self::isValue($value));
        $over = $repeated = [];
        foreach ($filled as $i => $value) {
            $under = array_values(array_filter(array_column($rows, $i), static fn (string $cell): bool => '' !== trim($cell)));
            if (!isset($typed[$i]) && [] !== $under && [] === array_filter($under, static fn (string $cell): bool => !self::isValue($cell))) {
                $over[] = $i;
            }
            if (\in_array($value, $under, true)) {
                $repeated[] = $i;
            }
        }
        if ([] !== $over) {
            // A text stands over numbers or dates.
            return '';
        }
        if ([] !== $typed && !self::isSeries(array_values($typed))) {
            return \sprintf('“%s” is a value', reset($typed));
        }
        if ([] === $typed && \count($repeated) >= max(1, 0.3 * \count($filled))) {
            return \sprintf('“%s” stands again in its column', $first[$repeated[0]]);
        }
        $alike = array_filter(array_keys($filled), static fn (int $i): bool => self::isShapedAs($filled[$i], array_column($rows, $i)));

        return [] === $typed && [] !== $alike && \count($alike) >= 0.5 * \count($filled)
            ? \sprintf('“%s” is written as what stands under it', $filled[reset($alike)]) : '';
    }

    private static function isValue(string $value): bool
    {
        $value = trim($value);

        return 'text' !== CsvTable::typeOf($value)
            || 1 === preg_match('~^[+-]?[\d.,\s]*\d[\d.,\s]*%?$|^\d{1,4}[./-]\d{1,2}[./-]\d{1,4}(?:[ T]\d\d?:\d\d.*)?$~', $value);
    }

    /**
     * Years or numbers one after another name columns, as those of a table of figures do.
     *
     * @param list<string> $values
     */
    private static function isSeries(array $values): bool
    {
        $years = [] === array_filter($values, static fn (string $value): bool => 1 !== preg_match(self::YEARS, trim($value)));
        for ($i = 1; $i < \count($values); ++$i) {
            if ((string) (1 + (int) $values[$i - 1]) !== trim($values[$i])) {
                return false;
            }
        }

        return \count($values) > 1 && ($years || \count($values) >= self::LEAST_SERIES && \in_array(trim($values[0]), ['0', '1'], true));
    }

    /**
     * Codes of digits and letters that all look the same, this one too.
     *
     * @param list<string> $under
     */
    private static function isShapedAs(string $value, array $under): bool
    {
        $shape = static fn (string $text): string => (string) preg_replace(['/\d/', '/\p{L}/u'], ['9', 'a'], trim($text));
        $of = $shape($value);

        return \count($under) >= 3 && str_contains($of, '9') && [] === array_filter($under, static fn (string $cell): bool => $shape($cell) !== $of);
    }
}
