<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Amount;

/** How many rows really stand at each end of a join. */
final readonly class JoinFigures
{
    /**
     * @param int                                  $rows      at the end that holds the reference
     * @param int                                  $empty     of them, those that refer to nothing
     * @param int                                  $orphans   of them, those that refer to what is not there
     * @param int                                  $missing   different values that are not there
     * @param list<string>                         $examples  of such values; none where they are personal
     * @param int                                  $parents   rows at the other end
     * @param int                                  $used      of them, those that are referred to
     * @param int                                  $median    rows of a parent that has some
     * @param list<array{from: int, to: int, count: int}> $spread parents by how many rows they have
     * @param list<array{value: string, rows: int}> $densest  the parents with the most rows; their keys are '' where they are personal
     * @param int                                  $most      rows of the densest parent
     * @param int                                  $repeated  rows of the other end that have the same key as another one
     */
    public function __construct(
        public int $rows,
        public int $empty,
        public int $orphans,
        public int $missing,
        public array $examples,
        public int $parents,
        public int $used,
        public int $median,
        public int $of95,
        public int $of99,
        public int $most,
        public array $spread,
        public array $densest,
        public int $repeated = 0,
    ) {
    }

    public function childless(): int
    {
        return max(0, $this->parents - $this->used);
    }

    /** The rows at each end as the data has them; null where there is none to go by. */
    public function cardinality(): ?Cardinality
    {
        if (0 === $this->rows || 0 === $this->parents) {
            return null;
        }

        return new Cardinality(
            End::of($this->childless() > 0, $this->most > 1),
            End::of($this->empty + $this->orphans > 0, $this->repeated > 0),
        );
    }

    /**
     * How many rows each has, as bars side by side.
     *
     * @param float $step   from one bar to the next, in px
     * @param float $height of the drawing, in px; the highest bar keeps 2 px from its top
     *
     * @return list<array{x: float, y: float, width: float, height: float, from: int, to: int, count: int}>
     */
    public function bars(float $step, float $height): array
    {
        $most = max([1, ...array_column($this->spread, 'count')]);
        $bars = [];
        foreach ($this->spread as $i => $one) {
            $high = ($height - 2) * $one['count'] / $most;
            $bars[] = ['x' => $i * $step + 1, 'y' => round($height - $high, 1), 'width' => $step - 2, 'height' => round($high, 1)] + $one;
        }

        return $bars;
    }

    /** How much of a line of this length those take that are referred to. */
    public function usedOf(float $length): float
    {
        return round($length * $this->used / max(1, $this->parents), 1);
    }

    /** "none 7 · median 604 · most 1,840" */
    public function inWords(): string
    {
        return implode(' · ', array_filter([
            $this->childless() > 0 ? 'none '.Amount::count($this->childless()) : '',
            'median '.Amount::count($this->median),
            $this->of99 > $this->median ? '99 of 100 up to '.Amount::count($this->of99) : '',
            'most '.Amount::count($this->most),
        ]));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'rows' => $this->rows, 'empty' => $this->empty, 'orphans' => $this->orphans, 'missing' => $this->missing, 'examples' => $this->examples,
            'parents' => $this->parents, 'used' => $this->used, 'median' => $this->median, 'of95' => $this->of95, 'of99' => $this->of99, 'most' => $this->most,
            'spread' => $this->spread, 'densest' => $this->densest, 'repeated' => $this->repeated,
        ];
    }

    /** @param array<mixed> $data */
    public static function fromArray(array $data): self
    {
        $int = static fn (string $name): int => is_numeric($data[$name] ?? null) ? (int) $data[$name] : 0;
        $list = static fn (string $name): array => \is_array($data[$name] ?? null) ? array_values($data[$name]) : [];
        $spread = $densest = [];
        foreach ($list('spread') as $one) {
            if (\is_array($one) && \is_int($one['from'] ?? null) && \is_int($one['to'] ?? null) && \is_int($one['count'] ?? null)) {
                $spread[] = ['from' => $one['from'], 'to' => $one['to'], 'count' => $one['count']];
            }
        }
        foreach ($list('densest') as $one) {
            if (\is_array($one) && \is_string($one['value'] ?? null) && \is_int($one['rows'] ?? null)) {
                $densest[] = ['value' => $one['value'], 'rows' => $one['rows']];
            }
        }

        return new self(
            $int('rows'), $int('empty'), $int('orphans'), $int('missing'), array_values(array_filter(
                $list('examples'),
                is_string(...),
            )), $int('parents'), $int('used'),
            $int('median'), $int('of95'), $int('of99'), $int('most'), $spread, $densest, $int('repeated'),
        );
    }
}
