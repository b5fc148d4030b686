<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Scene;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\SvgLine;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Tests\Core\Diagram\Drawn;
use Symfony\Component\Process\Process;

/** Measures how diagrams are drawn that people arrange, and how quickly they answer. */
final readonly class DiagramBench
{
    private const PORT = 8152;

    /**
     * @param \Closure(string, string, string, float, float, bool=): void $say
     * @param \Closure(): int                                             $source makes a source of 2,000 tables and gives its number
     */
    public function __construct(private \Closure $say, private \Closure $source)
    {
    }

    public function boards(): void
    {
        $this->leading();
        $this->moving();
        $this->paper();
        $this->browser();
    }

    /** @param array{list<Tablet>, list<Line>} $schema */
    private static function arranged(array $schema, float $density): Layout
    {
        return Layout::arranged($schema[0], $schema[1], Detail::Keys, Drawn::scattered($schema[0], $density));
    }

    /** Lines led round 300 tablets that stand anywhere. */
    private function leading(): void
    {
        $schema = Drawn::schema(300, 450, 5, true);
        $layout = self::arranged($schema, 0.35);
        $scene = $layout->scene ?? throw new \LogicException('It has no scene.');
        $times = [];
        for ($i = 0; $i < 5; ++$i) {
            $start = hrtime(true);
            $scene->lead();
            $times[] = (hrtime(true) - $start) / 1e9;
        }
        sort($times);
        ($this->say)('leading 450 lines round 300 tablets', \sprintf('%.2f s', $times[2]), '', $times[2], 2, false);
        $faults = Drawn::faults($layout, 1.0);
        ($this->say)('  through, on top of each other, covered', (string) \count($faults), '', \count($faults), 0, false);
        [$crossed, $straight] = Drawn::crossings($layout);
        ($this->say)('  crossings, to those of straight lines', (string) $crossed, (string) $straight, $crossed / max(1, $straight), 1.2, false);
    }

    /** One tablet of a hundred is moved: all that the server does for the answer. */
    private function moving(): void
    {
        $layout = self::arranged(Drawn::schema(100, 150, 7, true), 0.4);
        $scene = $layout->scene ?? throw new \LogicException('It has no scene.');
        $ways = [];
        foreach ($layout->paths as $path) {
            $ways[$path->line->id] = $path->points;
        }
        mt_srand(3);
        $times = [];
        for ($i = 0; $i < 60; ++$i) {
            $open = $scene->open();
            $key = 't'.mt_rand(0, 99);
            [$x, $y, $width, $height] = $open['pieces'][$key];
            $open['pieces'][$key] = [$x + mt_rand(-300, 300), $y + mt_rand(-300, 300), $width, $height];
            $asked = (string) json_encode(['scene' => $open, 'ways' => $ways]);
            $start = hrtime(true);
            /** @var array{scene: array<mixed>, ways: mixed} $given */
            $given = json_decode($asked, true);
            $answer = [];
            foreach (Scene::fromOpen($given['scene'])->setDown([$key])->lead(Scene::ways($given['ways'])) as $path) {
                if ($path->points !== $ways[$path->line->id]) {
                    $answer[$path->line->id] = ['points' => $path->points, 'svg' => SvgLine::inside($path)];
                }
            }
            json_encode($answer);
            $times[] = (hrtime(true) - $start) / 1e6;
        }
        sort($times);
        ($this->say)('after a move, 95 of 100 answers, ms', \sprintf('%.0f ms', $times[56]), \sprintf('median %.0f', $times[30]), $times[56], 60, false);
    }

    /** A PDF on A1: how high the small letters of fields come out. */
    private function paper(): void
    {
        [$tablets, $lines] = Drawn::schema(173, 226, 1);
        $svg = SvgDrawing::draw(Layout::of($tablets, $lines, Detail::Keys, shape: 825 / 578), new TitleBlock('Bench'), true);
        preg_match('/ width="([\d.]+)" height="([\d.]+)"/', $svg, $m);
        $width = (float) ($m[1] ?? 1);
        $height = (float) ($m[2] ?? 1);
        // An x of Source Code Pro is 0.486 of its size high.
        $letters = 12.5 * 0.486 * min(825 / max($width, $height), 578 / min($width, $height));
        ($this->say)('173 tables on A1, height of small letters', \sprintf('%.2f mm', $letters), '', $letters, 1.2, true);
    }

    /** Dragging, and the map, in Chromium. */
    private function browser(): void
    {
        $source = ($this->source)();
        $server = new Process(
            [\PHP_BINARY, '-d', 'opcache.enable=1', '-d', 'opcache.jit=tracing', '-d', 'opcache.jit_buffer_size=64M',
                '-d', 'opcache.validate_timestamps=0', '-d', 'variables_order=EGPCS', '-S', '127.0.0.1:'.self::PORT,
                '-t', 'public', 'public/router.php'],
            \dirname(__DIR__),
            ['PHP_CLI_SERVER_WORKERS' => '2', 'DATABASE_NAME' => 'fasti_bench', 'SYMFONY_DOTENV_VARS' => false],
            timeout: null,
        );
        $server->start();
        try {
            usleep(800000);
            $run = new Process(['node', 'bench/board.mjs', 'http://127.0.0.1:'.self::PORT, (string) $source], \dirname(__DIR__), timeout: 300);
            $run->mustRun();
            /** @var array<string, float> $took */
            $took = json_decode($run->getOutput(), true);
        } finally {
            $server->stop(1);
            (new Process(['pkill', '-f', '127.0.0.1:'.self::PORT]))->run();
        }
        $one = static fn (float $ms): string => \sprintf('%.1f ms', $ms);
        ($this->say)('dragging on 200 tablets, the script a move, ms', $one($took['script']), '', $took['script'], 4, false);
        ($this->say)('  moves shown in the next frame, of 100', \sprintf('%.0f', $took['next']), '', $took['next'], 90, true);
        ($this->say)('  at the latest in the one after', \sprintf('%.0f', $took['after']), '', $took['after'], 99, true);
        ($this->say)('map of 2,000 tables, first sight', \sprintf('%.2f s', $took['sight'] / 1000), '', $took['sight'] / 1000, 1.5, false);
        ($this->say)('  going into a region', $one($took['into']), '', $took['into'], 200, false);
    }
}
