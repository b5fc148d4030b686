<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/** Counts the values of one field as they stream by, in memory that does not grow with their number. */
final class Tally
{
    private const MOST_VALUES = 20000;
    private const SAMPLE = 5000;

    public int $values = 0;
    public int $blank = 0;
    private ?string $least = null;
    private ?string $greatest = null;
    private ?int $shortest = null;
    private int $longest = 0;
    private int $length = 0;
    /** @var array<array-key, int> */
    private array $counts = [];
    private bool $tooMany = false;
    /** @var array<int, int> items → how many lists had so many */
    private array $lists = [];
    /** @var array<int, string> a sample in which each value had the same chance (reservoir sampling, Vitter's algorithm R) */
    private array $sample = [];

    public function add(string $value, bool $number): void
    {
        ++$this->values;
        if ('' === trim($value)) {
            ++$this->blank;

            return;
        }
        if (null === $this->least || ($number ? (float) $value < (float) $this->least : strcmp($value, $this->least) < 0)) {
            $this->least = $value;
        }
        if (null === $this->greatest || ($number ? (float) $value > (float) $this->greatest : strcmp($value, $this->greatest) > 0)) {
            $this->greatest = $value;
        }
        $length = mb_strlen($value);
        $this->length += $length;
        $this->shortest = null === $this->shortest ? $length : min($this->shortest, $length);
        $this->longest = max($this->longest, $length);
        if (!$this->tooMany) {
            $this->counts[$value] = ($this->counts[$value] ?? 0) + 1;
            $this->tooMany = \count($this->counts) > self::MOST_VALUES;
        } elseif (isset($this->counts[$value])) {
            ++$this->counts[$value];
        }
        if (\count($this->sample) < self::SAMPLE) {
            $this->sample[] = mb_substr($value, 0, FieldFigures::CUT);
        } else {
            $at = mt_rand(0, $this->values - 1);
            if ($at < self::SAMPLE) {
                $this->sample[$at] = mb_substr($value, 0, FieldFigures::CUT);
            }
        }
    }

    /** A list was there, with so many items. */
    public function addList(int $items): void
    {
        ++$this->values;
        $this->lists[$items] = ($this->lists[$items] ?? 0) + 1;
    }

    /** @return array{lists: int, empty: int, fewest: int, most: int, average: float}|null null where no list was there */
    public function lists(): ?array
    {
        if ([] === $this->lists) {
            return null;
        }
        $lists = array_sum($this->lists);
        $items = array_sum(array_map(static fn (int $items, int $times): int => $items * $times, array_keys($this->lists), $this->lists));

        return [
            'lists' => $lists,
            'empty' => $this->lists[0] ?? 0,
            'fewest' => min(array_keys($this->lists)),
            'most' => max(array_keys($this->lists)),
            'average' => round($items / $lists, 1),
        ];
    }

    /** @return array{values: int, blank: int, distinct: ?int, least: ?string, greatest: ?string, shortest: ?int, longest: ?int, average: ?float} */
    public function figures(bool $text): array
    {
        $filled = $this->values - $this->blank;

        $text = $text && $filled > 0;
        // Objects and lists are there, but are no values that could be counted.
        $counted = !$this->tooMany && ([] !== $this->counts || 0 === $filled);

        return [
            'values' => $this->values,
            'blank' => $this->blank,
            'distinct' => $counted ? \count($this->counts) : null,
            'least' => $this->least,
            'greatest' => $this->greatest,
            'shortest' => $text ? $this->shortest : null,
            'longest' => $text ? $this->longest : null,
            'average' => $text ? $this->length / $filled : null,
        ];
    }

    /** @return ?array<array-key, int> null where there were too many different values to count each */
    public function frequent(): ?array
    {
        return $this->tooMany ? null : $this->counts;
    }

    /** @return list<string> */
    public function sample(): array
    {
        return array_values($this->sample);
    }
}
