<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * A tablet while it is being placed. All heights are multiples of 10, so that whatever leaves it does so on the grid.
 *
 * @internal
 */
final class TabletShape
{
    public const ROW = 20;
    public const HEADER = 30;
    public const MOST = 320;
    private const GRAIN_MOST = 190;
    public const TITLE_SIZE = 16.5;
    public const CODE_SIZE = 12.5;
    public const TEXT_SIZE = 13.0;
    public const TYPE_MOST = 186;

    public float $x = 0;
    public int $y = 0;
    public int $column = 0;
    public int $width;
    public int $height = 0;
    public int $headHeight;
    public string $title;
    public string $grain;
    /** Whether types stand beside the names of fields. */
    public readonly bool $typed;
    public readonly int $leadsWidth;
    /** @var list<TabletRow> */
    public array $rows;
    /** @var array<string, int> row name → index; -1 stands for the head */
    public array $rowIndex = [];
    /** @var array<int, int> row → height */
    public array $rowHeights = [];
    /** @var array<int, int> row → its top, from the top of the tablet */
    public array $rowTops = [];
    /** Where the fields of the primary key end, from the top of the tablet; 0 for nowhere. */
    public int $cut = 0;

    /** @param array<string, int> $joined names of the rows that a line of this diagram ends at */
    public function __construct(public readonly Tablet $tablet, Detail $detail, array $joined)
    {
        $detail = $tablet->folded ? Detail::Names : $tablet->detail ?? $detail;
        $shown = array_filter($tablet->rows, static fn (TabletRow $row): bool => self::isShown($row, $tablet, $detail, isset($joined[$row->name])));
        $this->rows = [
            ...array_values(array_filter($shown, static fn (TabletRow $row): bool => $row->key)),
            ...array_values(array_filter($shown, static fn (TabletRow $row): bool => !$row->key)),
        ];
        $this->typed = Detail::All === $detail && null === $tablet->picked;
        foreach ($this->rows as $i => $row) {
            $this->rowIndex[$row->name] = $i;
        }
        $title = static fn (string $text): float => TextWidth::title($text, self::TITLE_SIZE);
        $word = '' === $tablet->word ? 0 : TextWidth::text($tablet->word, 11) + 14;
        $this->leadsWidth = 0 === $tablet->leads ? 0 : (int) ceil(TextWidth::text('+'.$tablet->leads, 11)) + 10;
        $wide = $title($tablet->title) + $word + $this->leadsWidth;
        foreach ($this->rows as $row) {
            $type = $this->typed && '' !== $row->type ? 18 + min(self::TYPE_MOST, TextWidth::text($row->type, 11)) : 0;
            $wide = max($wide, $this->labelWidth($row->label) + $type);
        }
        $grain = 'one row per '.$tablet->grain;
        $grainWide = TextWidth::text($grain, 11);
        // A grain that would be cut off says less than none; the tooltip has it whole.
        $room = [] !== $this->rows && '' !== $tablet->grain && $grainWide <= max($wide, self::GRAIN_MOST);
        $this->grain = $room ? $grain : '';
        $wide = $room ? max($wide, $grainWide) : $wide;
        $most = $this->typed && [] !== array_filter($this->rows, static fn (TabletRow $row): bool => '' !== $row->type) ? self::MOST + 80 : self::MOST;
        $this->width = (int) (ceil(min($most, max(110, $wide + 26)) / 10) * 10);
        $this->title = TextWidth::fitted($tablet->title, $this->width - 24 - $word - $this->leadsWidth, $title);
        $this->headHeight = self::HEADER + ($room ? 20 : 0);
    }

    private static function isShown(TabletRow $row, Tablet $tablet, Detail $detail, bool $joined): bool
    {
        if ($tablet->folded) {
            return false;
        }
        if (null !== $tablet->picked) {
            return \in_array($row->name, $tablet->picked, true);
        }

        return match ($detail) {
            Detail::Names => false,
            Detail::Keys => $row->key || $joined,
            Detail::Leads => $row->key || $row->leads || $joined,
            Detail::All => true,
        };
    }

    public function labelWidth(string $label): float
    {
        return $this->tablet->spoken ? TextWidth::text($label, self::TEXT_SIZE) : TextWidth::code($label, self::CODE_SIZE);
    }

    public function rowOf(string $name): int
    {
        return $this->rowIndex[$name] ?? -1;
    }

    /**
     * Makes rows as high as their busier side needs.
     *
     * @param array<int, array<int, int>> $needed row → side → px that the line ends take up
     */
    public function grow(array $needed): void
    {
        $at = 0;
        $this->rowHeights = $this->rowTops = [];
        $head = [] === $this->rows ? max(40, 10 + max([0, ...($needed[-1] ?? [])])) : $this->headHeight;
        $this->rowHeights[-1] = $head;
        $this->rowTops[-1] = 0;
        $at = $head;
        $keys = \count(array_filter($this->rows, static fn (TabletRow $row): bool => $row->key));
        $at += 0 === $keys && [] !== $this->rows ? 10 : 0;
        foreach (array_keys($this->rows) as $i) {
            $this->rowTops[$i] = $at;
            $this->rowHeights[$i] = max(self::ROW, 10 + max([0, ...($needed[$i] ?? [])]));
            $at += $this->rowHeights[$i];
            if ($i === $keys - 1) {
                $this->cut = $at;
                $at += $i < \count($this->rows) - 1 ? 10 : 0;
            }
        }
        $this->height = $at + ([] === $this->rows || $this->cut === $at ? 0 : 10);
        $this->height = (int) (ceil($this->height / 10) * 10);
    }
}
