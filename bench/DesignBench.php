<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Core\Design\Checks;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Drawing;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Working;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Dialect\ScriptOptions;

/** Measures how long an outline takes to be checked and drawn after a keystroke, and a big script to be written. */
final readonly class DesignBench
{
    private const SAID = [
        '',
        ', text up to 80, required',
        ', whole number',
        ', date, not after 2030-01-01',
        ', one of open, paused, closed; open unless given',
    ];

    /** @param \Closure(string, string, string, float, float): void $say */
    public function __construct(private \Closure $say)
    {
    }

    public function designs(): void
    {
        $this->typing();
        $this->script();
    }

    private static function outline(int $things, int $attributes): string
    {
        $text = "Design \"Big\"\n  for PostgreSQL\n\n";
        for ($i = 0; $i < $things; ++$i) {
            $text .= "Gauge g$i, one row per gauge of kind $i\n";
            for ($j = 0; $j < $attributes; ++$j) {
                $text .= "  attribute number $j of it".self::SAID[$j % 5]."\n";
            }
            $text .= "  told apart by attribute number 1 of it\n\n";
        }
        for ($i = 1; $i < $things; ++$i) {
            $text .= "A gauge g$i stands on exactly one gauge g".intdiv($i, 2).'; a gauge g'.intdiv($i, 2)." carries any number of gauge g$i.\n";
        }

        return $text;
    }

    private function typing(): void
    {
        $text = self::outline(300, 10);
        $first = Outline::read($text)->design;
        [$tablets, $lines] = Drawing::conceptual($first);
        $layout = Layout::of($tablets, $lines, Detail::Names);
        $places = $layout->places();
        $ways = [];
        foreach ($layout->paths as $path) {
            $ways[$path->line->id] = $path->points;
        }
        $checked = $drawn = [];
        for ($i = 0; $i < 12; ++$i) {
            $now = str_replace('attribute number 3 of it, date', "attribute number 3 of it $i, date", $text);
            $begun = hrtime(true);
            $outline = Outline::read($now);
            $found = Checks::of($outline->design, Working::of($outline->design));
            $checked[] = (hrtime(true) - $begun) / 1e6;
            [$tablets, $lines] = Drawing::conceptual($outline->design);
            SvgDrawing::bare(Layout::arranged($tablets, $lines, Detail::Names, $places, [], $ways), 'Big');
            $drawn[] = (hrtime(true) - $begun) / 1e6;
            if (\count($outline->faults) > 0) {
                throw new \LogicException((string) $outline->faults[0].\count($found));
            }
        }
        sort($checked);
        sort($drawn);
        ($this->say)('outline of 300 things, 3,000 attributes, checked', \sprintf('%.0f ms', $checked[6] ?? 0), '', $checked[6] ?? 0, 150);
        ($this->say)('  checked and drawn', \sprintf('%.0f ms', $drawn[6] ?? 0), '', $drawn[6] ?? 0, 300);
    }

    private function script(): void
    {
        $design = Outline::read(self::outline(2000, 8))->design;
        $begun = hrtime(true);
        $text = (new DesignScript(new Physical(Working::of($design), Physical::dialectOf($design))))->text(new ScriptOptions());
        $took = (hrtime(true) - $begun) / 1e9;
        if (2000 !== preg_match_all('/^CREATE TABLE /m', $text)) {
            throw new \LogicException('Not all tables are in the script.');
        }
        ($this->say)('script of 2,000 tables', \sprintf('%.2f s', $took), '', $took, 1);
    }
}
