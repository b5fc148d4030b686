<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Join\End;

/** A join as SVG: its way, the signs at its ends, its verb. */
final class SvgLine
{
    private const FOOT = 12;

    public static function group(Path $path): string
    {
        $line = $path->line;

        return '<g'.SvgText::attributes([
            'class' => 'line '.$line->kind, 'data-join' => $line->id, 'data-from' => $line->from, 'data-to' => $line->to,
        ]).'>'.self::inside($path)."</g>\n";
    }

    /** What stands in the group: all that changes when the line is led anew. */
    public static function inside(Path $path): string
    {
        $line = $path->line;
        $svg = '<title>'.SvgText::escape($line->tooltip).'</title><path class="touch" d="'.self::rounded($path->points).'"/>';
        foreach ('documented' === $line->kind ? self::withGap($path->points) : [$path->points] as $part) {
            $svg .= '<path d="'.self::rounded($part).'"/>';
        }
        $svg .= self::mark($path->points[0], $path->sides[0], $line->fromEnd).self::mark(
            $path->points[\count($path->points) - 1],
            $path->sides[1],
            $line->toEnd,
        );
        $label = $path->label();

        return null === $label ? $svg : $svg.SvgText::text($line->verb, [
            'class' => 'verb',
            'x' => 1 === $path->sides[0] ? $label['x'] : $label['x'] + $label['width'],
            'y' => $label['y'] + 8,
            ...(1 === $path->sides[0] ? [] : ['text-anchor' => 'end']),
        ]);
    }

    /** @param array{float, float} $at */
    public static function mark(array $at, int $side, End $end): string
    {
        [$x, $y] = $at;
        $d = 1 === $side ? 1 : -1;
        $n = SvgText::number(...);
        $bar = static fn (float $off): string => \sprintf('M%s,%sv10', $n($x + $d * $off), $n($y - 5));
        $ring = static fn (float $off): string => \sprintf('<circle class="ring" cx="%s" cy="%s" r="4"/>', $n($x + $d * $off), $n($y));
        $foot = \sprintf('M%s,%sL%s,%sL%1$s,%s', $n($x), $n($y - 5), $n($x + $d * self::FOOT), $n($y), $n($y + 5));

        return match ($end) {
            End::One => '<path d="'.$bar(9).$bar(13).'"/>',
            End::NoneOrOne => '<path d="'.$bar(9).'"/>'.$ring(16),
            End::OneOrMore => '<path d="'.$foot.$bar(16).'"/>',
            End::NoneOrMore => '<path d="'.$foot.'"/>'.$ring(17),
        };
    }

    /** @param list<array{float, float}> $points */
    public static function rounded(array $points): string
    {
        $n = SvgText::number(...);
        $d = 'M'.$n($points[0][0]).','.$n($points[0][1]);
        for ($i = 1, $last = \count($points) - 1; $i < $last; ++$i) {
            [$ax, $ay] = $points[$i - 1];
            [$bx, $by] = $points[$i];
            [$cx, $cy] = $points[$i + 1];
            $r = min(4, (abs($bx - $ax) + abs($by - $ay)) / 2, (abs($cx - $bx) + abs($cy - $by)) / 2);
            $d .= \sprintf(
                'L%s,%sQ%s,%s %s,%s',
                $n($bx - $r * ($bx <=> $ax)),
                $n($by - $r * ($by <=> $ay)),
                $n($bx),
                $n($by),
                $n($bx + $r * ($cx <=> $bx)),
                $n($by + $r * ($cy <=> $by)),
            );
        }

        return $d.'L'.$n($points[\count($points) - 1][0]).','.$n($points[\count($points) - 1][1]);
    }

    /**
     * Cuts the longest piece in its middle.
     *
     * @param list<array{float, float}> $points
     *
     * @return list<list<array{float, float}>>
     */
    public static function withGap(array $points): array
    {
        $best = 1;
        $length = static fn (int $i): float => abs($points[$i][0] - $points[$i - 1][0]) + abs($points[$i][1] - $points[$i - 1][1]);
        for ($i = 1, $n = \count($points); $i < $n; ++$i) {
            $best = $length($i) > $length($best) ? $i : $best;
        }
        [$ax, $ay] = $points[$best - 1];
        [$bx, $by] = $points[$best];
        $mx = ($ax + $bx) / 2;
        $my = ($ay + $by) / 2;
        $ux = 4 * ($bx <=> $ax);
        $uy = 4 * ($by <=> $ay);

        return [
            [...\array_slice($points, 0, $best), [$mx - $ux, $my - $uy]],
            [[$mx - $ux - abs($uy), $my - $uy - abs($ux)], [$mx - $ux + abs($uy), $my - $uy + abs($ux)]],
            [[$mx + $ux - abs($uy), $my + $uy - abs($ux)], [$mx + $ux + abs($uy), $my + $uy + abs($ux)]],
            [[$mx + $ux, $my + $uy], ...\array_slice($points, $best)],
        ];
    }
}
