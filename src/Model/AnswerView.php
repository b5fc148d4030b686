<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Model\Answer;
use Fasti\Core\Model\Chart;
use Fasti\Core\Model\Doubled;
use Fasti\Core\Model\FieldUse;
use Fasti\Core\Model\Lost;
use Fasti\Core\Model\PlanColumn;
use Fasti\Core\Model\Reconciled;
use Fasti\Core\Model\UnknownValue;
use Fasti\Core\Model\Ways;

/** An answer as pages show it: values as text, personal ones hidden from those who may not see them. */
final readonly class AnswerView
{
    public const HIDDEN = '···';
    /** What is not among the first of each, put together. */
    public const OTHERS = 'the others';
    /** Rows that a page shows. */
    public const SHOWN = 500;

    /**
     * @param list<array{beside: bool, name: string, measure: bool, numeric: bool, unit: string, hidden: bool, coded: bool}> $columns
     * @param list<list<?string>>                                         $rows       as the source gives them
     * @param list<list<string>>                                          $shown      as people read them
     * @param array<int, list<list<string>>>                              $subtotals by the number of the row after which they stand; '' where there is none
     * @param list<string>                                                $total      by column; '' where there is none
     * @param list<array{words: string, rows: list<array<string, ?string>>}> $doubled
     * @param list<array{measure: string, fact: string, here: string, alone: string, agrees: bool, times: string}> $reconciled
     * @param list<array{words: string, rows: int, shown: list<array<string, ?string>>}>                       $lost
     * @param list<string>                                                $unknown    what conditions name and no row has, in sentences
     * @param list<string>                                                $notAdded   of which point totals are, in sentences
     */
    public function __construct(
        public array $columns,
        public array $rows,
        public array $shown,
        public int $many,
        public bool $cut,
        public array $total,
        public array $doubled,
        public array $reconciled,
        public array $lost,
        public float $seconds,
        public string $chart,
        public string $fingerprint,
        public array $unknown = [],
        public array $notAdded = [],
        public array $subtotals = [],
    ) {
    }

    /**
     * @param array<int, bool>    $hidden       by the number of the column
     * @param array<string, bool> $hiddenFields FieldUse as "role\0field" → true
     */
    public static function of(Answer $answer, array $hidden = [], array $hiddenFields = []): self
    {
        $columns = $shown = $rows = [];
        foreach ($answer->plan->columns as $i => $column) {
            $columns[] = [
                'beside' => null !== $column->figure, 'name' => $column->figure?->inWords() ?? $column->name, 'measure' => null !== $column->measure,
                'numeric' => null !== $column->measure && $column->family->isNumeric(),
                'unit' => $column->unit, 'hidden' => $hidden[$i] ?? false, 'coded' => null !== $column->labels,
            ];
        }
        $at = $answer->plan->othersAt;
        foreach ($answer->rows as $n => $row) {
            $together = $answer->others[$n] ?? 0;
            foreach (array_keys(array_filter($hidden)) as $i) {
                $row[$i] = null === ($row[$i] ?? null) ? null : self::HIDDEN;
            }
            if (null !== $at && $together > 0) {
                $row[$at] = self::OTHERS;
            }
            $row = array_values($row);
            $rows[] = $row;
            if (\count($shown) < self::SHOWN) {
                $said = array_map(self::said(...), $row, $answer->plan->columns);
                $shown[] = null !== $at && $together > 0 ? array_values(array_replace($said, [$at => 'the other '.number_format($together)])) : $said;
            }
        }
        $total = [];
        foreach ($answer->plan->columns as $i => $column) {
            $total[] = null === $column->measure || ($hidden[$i] ?? false) || !\array_key_exists($column->name, $answer->total) ? ''
                : self::said($answer->total[$column->name], $column);
        }
        $none = [] !== array_filter($hidden);

        return new self(
            $columns, $rows, $shown, \count($answer->rows), $answer->cut, $total,
            array_map(static fn (Doubled $one): array => ['words' => $one->words, 'rows' => array_map(
                static fn (array $row): array => self::masked($row, $one->way->to(), $hiddenFields),
                $one->rows,
            )], $answer->doubled),
            self::reconciled($answer, $hidden),
            array_map(
                static fn (Lost $one): array => [
                    'words' => $one->words.' The way is '.Ways::inWords([$one->way]).'.', 'rows' => $one->rows,
                    'shown' => array_map(static fn (array $row): array => self::masked($row, $one->fact, $hiddenFields), $one->shown),
                ],
                $answer->lost,
            ),
            $answer->seconds,
            $none ? '' : Chart::of($answer),
            $answer->fingerprint(),
            array_map(static fn (UnknownValue $one): string => $one->inWords([] !== array_filter(
                $one->named->fields,
                static fn (FieldUse $use): bool => isset($hiddenFields["$use->role\0$use->column"]),
            )), $answer->unknown),
            $none ? [] : [...$answer->notes, ...$answer->notAdded()],
            self::subtotals($answer, $hidden),
        );
    }

    /**
     * What a column does not show, what is told beside it does not show either.
     *
     * @param array<int, bool> $hidden
     *
     * @return list<array{measure: string, fact: string, here: string, alone: string, agrees: bool, times: string}>
     */
    private static function reconciled(Answer $answer, array $hidden): array
    {
        $closed = array_map(static fn (int $i): string => $answer->plan->columns[$i]->measure->name ?? '', array_keys(array_filter($hidden)));
        $open = array_filter($answer->reconciled, static fn (Reconciled $one): bool => !\in_array($one->measure, $closed, true));

        return array_map(static fn (Reconciled $one): array => [
            'measure' => $one->measure, 'fact' => $one->fact, 'here' => self::number($one->here), 'alone' => self::number($one->alone),
            'agrees' => $one->agrees(), 'times' => $one->times(),
        ], array_values($open));
    }

    /**
     * @param array<int, bool> $hidden
     *
     * @return array<int, list<list<string>>>
     */
    private static function subtotals(Answer $answer, array $hidden): array
    {
        $all = [];
        foreach ($answer->subtotalsAfter() as $after => $rows) {
            foreach ($rows as [$n, $row]) {
                $said = [];
                foreach ($answer->plan->columns as $i => $column) {
                    $said[] = match (true) {
                        ($hidden[$i] ?? false) && null !== $row[$i] => self::HIDDEN,
                        null === $row[$i] => $i < $n ? 'none' : '',
                        default => $column->labels?->told($row[$i]) ?? self::said($row[$i], $column),
                    };
                }
                $all[$after][] = $said;
            }
        }

        return $all;
    }

    /**
     * @param array<string, ?string> $row
     * @param array<string, bool>    $hidden
     *
     * @return array<string, ?string>
     */
    private static function masked(array $row, string $role, array $hidden): array
    {
        foreach ($row as $name => $value) {
            if (null !== $value && isset($hidden["$role\0$name"])) {
                $row[$name] = self::HIDDEN;
            }
        }

        return $row;
    }

    private static function said(?string $value, PlanColumn $column): string
    {
        if (null === $value) {
            return null === $column->measure ? 'none' : '–';
        }
        if (null !== ($label = $column->labels?->of($value))) {
            return $label;
        }
        if (TypeFamily::Flag === $column->family) {
            return \in_array(strtolower($value), ['1', 't', 'true'], true) ? 'yes' : 'no';
        }
        if (null === $column->measure || !$column->family->isNumeric() || !is_numeric($value)) {
            return $value;
        }

        return self::formatted($value, $column->format);
    }

    /** A number by its format: `0`, `0.0`, `0.00`, `0 %`, `0.0 %`, `0.00 €`, `$0.00`; without one up to four decimals, as many as it has. */
    public static function formatted(string $value, string $format): string
    {
        if (1 === preg_match('/^([^0-9.%]{0,8})0(?:\.(0{1,9}))?(\s*%|[^0-9.%]{0,8})$/u', trim($format), $m)) {
            $share = str_ends_with($m[3], '%');
            $number = number_format((float) $value * ($share ? 100 : 1), \strlen($m[2]));

            return (str_starts_with($number, '-') ? '-' : '').$m[1].ltrim($number, '-').($share ? ' %' : $m[3]);
        }

        return self::number($value);
    }

    private static function number(?string $value): string
    {
        if (null === $value || !is_numeric($value)) {
            return $value ?? '–';
        }
        $said = number_format((float) $value, 1 === preg_match('/^-?\d+$/', $value) ? 0 : 4);

        return str_contains($said, '.') ? rtrim(rtrim($said, '0'), '.') : $said;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        /** @var array<string, mixed> $all */
        $all = get_object_vars($this);

        return $all;
    }

    /** @param array<string, mixed> $data as toArray() gave it */
    public static function fromArray(array $data): self
    {
        // @phpstan-ignore-next-line it is what toArray() of the same program gave
        return new self(...$data);
    }
}
