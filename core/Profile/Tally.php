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

    /** @return array{values: int, blank: int, distinct: ?int, least: ?string, greatest: ?string, shortest: ?int, longest: ?int, average: ?float} */
    public function figures(bool $text): array
    {
        $filled = $this->values - $this->blank;

        return ['values' => $this->values, 'blank' => $this->blank, 'distinct' => $this->tooMany ? null : \count($this->counts), 'least' => $this->least, 'greatest' => $this->greatest, 'shortest' => $text ? $this->shortest : null, 'longest' => $text && $filled > 0 ? $this->longest : null, 'average' => $text && $filled > 0 ? $this->length / $filled : null];
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
