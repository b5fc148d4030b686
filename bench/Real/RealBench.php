<?php

declare(strict_types=1);

namespace Fasti\Bench\Real;

use Fasti\Bench\Bench;
use Fasti\Bench\Joins\Training;
use Fasti\Bench\Session;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Chooser;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\Target;
use Symfony\Component\Process\Process;

/**
 * What Fasti makes of schemas that nobody of the house wrote, each by weights that were fitted without it: `bin/bench real [load] [--fast] [--rows] [--drafts] [NAME …]`.
 * With `load`, or where none has been read yet, they are fetched first; with `--fast` the shipped weights are taken, which know them all; with `--rows`
 * those that come with rows are asked, and what is counted of their joins is held against plain SQL; with `--drafts` it is told what is drafted.
 */
final class RealBench
{
    /** A share of so few references says little. */
    private const FEW = 9;
    private const SURE = 10;

    private readonly Corpus $corpus;
    /** @var array<string, list<float>> what is printed as a mean */
    private array $means = ['first' => [], 'variants' => [], 'f1' => []];
    /** @var array<int, array{int, int}> */
    private array $tenths = [];
    private bool $held = true;

    public function __construct(private readonly string $root)
    {
        $this->corpus = new Corpus($root);
    }

    /** @param list<string> $arguments */
    public static function command(string $root, array $arguments): int
    {
        ini_set('memory_limit', '6G');
        new Bench();
        $bench = new self($root);
        $names = array_values(array_diff($arguments, ['load', '--fast', '--rows', '--drafts']));
        if (\in_array('load', $arguments, true) || [] === $bench->corpus->names()) {
            $bench->load($names);
        }

        $names = [] === $names ? $bench->corpus->names() : $names;
        if (\in_array('--drafts', $arguments, true)) {
            return $bench->drafts($names) ? 0 : 1;
        }

        $held = \in_array('--rows', $arguments, true) ? (new WithRows($bench->corpus, $bench->target(...)))->run($names)
            : $bench->run($names, \in_array('--fast', $arguments, true));

        return $held ? 0 : 1;
    }

    /** @param list<string> $names */
    private function load(array $names): void
    {
        $folder = $this->corpus->folder();
        @mkdir($folder.'/catalogs', 0o777, true);
        $loading = new Process([__DIR__.'/load.sh', $folder, $this->root.'/var/run/mariadb.sock', $this->port(), ...$names], timeout: 3600);
        $loading->run(static function (string $type, string $text): void {
            echo $text;
        });
        preg_match_all('/^(\w+) +(\w+) +refused/m', $loading->getOutput(), $m, \PREG_SET_ORDER);
        foreach ($m as [, $name, $engine]) {
            $target = $this->target($name, $engine);
            $reader = Dialects::of($engine)->reader(Session::rows($target), $target->database) ?? throw new \LogicException($engine);
            $this->corpus->keep($name, $reader->read(new Choice(), new SilentProgress()));
        }
    }

    private function port(): string
    {
        return trim((string) file_get_contents($this->root.'/var/run/postgres.port'));
    }

    private function target(string $name, string $engine): Target
    {
        return match ($engine) {
            'mariadb' => Session::target("fasti_real_$name"),
            'postgresql' => new Target('postgresql', '127.0.0.1', (int) $this->port(), "fasti_real_$name", 'fasti', ''),
            default => new Target('sqlite', path: $this->corpus->folder()."/sqlite/$name.sqlite"),
        };
    }

    /** @param list<string> $names */
    private function run(array $names, bool $fast): bool
    {
        printf("%-10s %9s %6s  %11s  %5s   %s\n", 'schema', 'declared', 'first', 'sure, right', 'F1', 'the same written otherwise');
        $training = $fast ? null : new Training($this->corpus);
        foreach ($names as $name) {
            $weights = $training?->names($name);
            $this->schema($name, null === $weights ? Chooser::fitted(false) : new Chooser($weights));
        }
        $this->sums();

        return $this->held;
    }

    private function schema(string $name, Chooser $chooser): void
    {
        $measure = new Measure($name, $this->corpus->known($name), $chooser, $this->corpus->judged($name));
        $otherwise = [];
        foreach ($this->corpus->variants($name) as $rule => $known) {
            $variant = new Measure($known->name, $known, $chooser);
            $otherwise[] = \sprintf('%s %.2f', $rule, $variant->share());
            if ($measure->declared >= self::FEW) {
                $this->means['variants'][] = $variant->share();
            }
        }
        printf(
            "%-10s %9d %6.2f  %4d, %5s  %5.2f   %s\n", $name, $measure->declared, $measure->share(), $measure->sure,
            0 === $measure->sure ? '' : \sprintf('%.2f', $measure->sureRight / $measure->sure), $measure->f1(), implode('  ', $otherwise),
        );
        if ('' !== (string) getenv('JOINS_TOLD')) {
            foreach ([...array_map(static fn (string $one): string => "led elsewhere  $one", $measure->missed),
                ...array_map(static fn (string $one): string => "not declared   $one", $measure->further)] as $line) {
                echo "    $line\n";
            }
        }
        if ($measure->declared >= self::FEW) {
            $this->means['first'][] = $measure->share();
            $this->means['f1'][] = $measure->f1();
            $this->held = $this->held && $measure->share() >= 0.55;
        }
        $this->held = $this->held && ($measure->sure < self::SURE || $measure->sureRight >= 0.95 * $measure->sure);
        foreach ($measure->tenths as $tenth => [$said, $right]) {
            $this->tenths[$tenth] = [($this->tenths[$tenth][0] ?? 0) + $said, ($this->tenths[$tenth][1] ?? 0) + $right];
        }
    }

    /** @param list<string> $names */
    private function drafts(array $names): bool
    {
        printf("%-10s %6s %12s   %s\n", 'schema', 'fields', 'drafted, %', 'judged: right, adding something; of 0.8 and more');
        $sums = ['all' => 0, 'right' => 0, 'adds' => 0, 'sure' => 0, 'sureRight' => 0];
        $adding = [];
        foreach ($names as $name) {
            $sample = new DraftSample($this->corpus->catalog($name));
            $found = $sample->measure($this->corpus->judgedDrafts($name));
            $drafted = \count($sample->meanings) / max(1, $sample->fields);
            $adding[] = $drafted * $found['adds'] / max(1, $found['all']);
            printf("%-10s %6d %12.0f   %d of %d right, %d add; %d of %d\n", $name, $sample->fields, 100 * $drafted, $found['right'], $found['all'],
                $found['adds'], $found['sureRight'], $found['sure']);
            foreach ($found as $what => $n) {
                $sums[$what] += $n;
            }
        }
        $sure = $sums['sureRight'] / max(1, $sums['sure']);
        $share = array_sum($adding) / max(1, \count($adding));
        printf("of 0.8 and more, right          %.2f  %s\n", $sure, $sure >= 0.9 ? 'at least 0.90' : 'UNDER 0.90');
        printf("of fields, right and adding     %.2f  %s\n", $share, $share >= 0.35 ? 'at least 0.35' : 'UNDER 0.35');

        return $sure >= 0.9 && $share >= 0.35;
    }

    private function sums(): void
    {
        foreach (['first' => 0.9, 'variants' => 0.75, 'f1' => 0.85] as $what => $least) {
            $mean = array_sum($this->means[$what]) / max(1, \count($this->means[$what]));
            printf("mean %-9s %.3f  %s %.2f\n", $what, $mean, $mean >= $least ? 'at least' : 'UNDER', $least);
            $this->held = $this->held && $mean >= $least;
        }
        ksort($this->tenths);
        foreach ($this->tenths as $tenth => [$said, $right]) {
            printf("confidence %.1f  %4d of %4d true  %.2f\n", $tenth / 10, $right, $said, $right / $said);
        }
    }
}
