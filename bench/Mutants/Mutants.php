<?php

declare(strict_types=1);

namespace Fasti\Bench\Mutants;

use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\Process;

/**
 * Makes small mistakes in the house, one at a time and in copies of it, and counts which of them its tests notice: `bin/bench mutants`. In the core
 * the tests of the core have to notice them, those of the same room first; in the application those that run the mistaken file.
 */
final class Mutants
{
    private const EACH = 20;
    private const OF_APPLICATION = 100;
    /** Mistakes at once. */
    private const BESIDE = 2;
    private const CORE = 0.8;
    private const ROOM = 0.6;
    private const APPLICATION = 0.7;

    /** @var array<string, string> id → why it is no mistake */
    private array $equal;
    private \Random\Randomizer $chance;
    private bool $told = false;
    /** @var array<string, true> tests that fail without a mistake */
    private array $broken = [];

    public function __construct(private readonly string $root, int $seed)
    {
        $this->chance = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));
        $list = json_decode((string) file_get_contents(__DIR__.'/equal.json'), true, flags: \JSON_THROW_ON_ERROR);
        $this->equal = array_map(static fn (mixed $why): string => \is_string($why) ? $why : '', \is_array($list) ? array_combine(
            array_map(strval(...), array_keys($list)),
            $list,
        ) : []);
    }

    /** @param list<string> $arguments --seed N, --room R (of the core, or `src`), --all N (instead of twenty a room) */
    public static function command(string $root, array $arguments): int
    {
        $of = static function (string $name) use ($arguments): ?string {
            $at = array_search("--$name", $arguments, true);

            return false === $at ? null : $arguments[$at + 1] ?? null;
        };
        $seed = (int) ($of('seed') ?? random_int(1, 999999));
        printf("seed %d\n", $seed);

        return (new self($root, $seed))->run($of('room'), (int) ($of('all') ?? 0)) ? 0 : 1;
    }

    public function run(?string $only, int $each): bool
    {
        $rooms = array_map(basename(...), glob($this->root.'/core/*', \GLOB_ONLYDIR) ?: []);
        $names = null === $only ? [...$rooms, 'src'] : [$only];
        $found = [];
        foreach ($names as $name) {
            $room = 'src' === $name ? $this->room('src', 'src', $each ?: self::OF_APPLICATION) : $this->room($name, "core/$name", $each ?: self::EACH);
            if ('src' === $name) {
                $this->application($room);
            } else {
                $this->core($room);
            }
            $found[] = $room;
            $this->tell($room);
        }

        return $this->sum($found);
    }

    private function room(string $name, string $folder, int $many): Room
    {
        $by = array_fill_keys(Mistakes::KINDS, []);
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($this->root.'/'.$folder, \FilesystemIterator::SKIP_DOTS)) as $file) {
            // A script that made something once is run by nobody.
            if ($file instanceof \SplFileInfo && 1 === preg_match('/^[A-Z]\w*\.php$/', $file->getFilename())) {
                $path = substr($file->getPathname(), \strlen($this->root) + 1);
                foreach (Mistakes::in($path, (string) file_get_contents($file->getPathname())) as $mutant) {
                    $by[$mutant->kind][$path.$mutant->from.$mutant->by] = $mutant;
                }
            }
        }
        $sample = [];
        $equal = 0;
        foreach ($by as $kind => $mutants) {
            ksort($mutants);
            $by[$kind] = $this->chance->shuffleArray(array_values($mutants));
        }
        $kinds = Mistakes::KINDS;
        while (\count($sample) < $many && [] !== $kinds) {
            $k = $this->chance->getInt(0, \count($kinds) - 1);
            $mutant = array_pop($by[$kinds[$k]]);
            if (null === $mutant) {
                array_splice($kinds, $k, 1);
            } elseif (isset($this->equal[$mutant->id()])) {
                ++$equal;
            } else {
                $sample[] = $mutant;
            }
        }

        return new Room($name, $sample, $equal);
    }

    private function core(Room $room): void
    {
        $covered = new Covered($this->root, 'core');
        $this->each($room, static function (Mutant $mutant) use ($covered, $room): array {
            $tests = $covered->by($mutant->file);
            $own = array_values(array_filter($tests, static fn (string $test): bool => str_starts_with($test, "tests/core/$room->name/")));

            return array_values(array_filter([$own, array_values(array_diff($tests, $own))]));
        });
    }

    private function application(Room $room): void
    {
        $covered = new Covered($this->root, 'src');
        $this->each($room, static fn (Mutant $mutant): array => array_map(static fn (string $file): array => [$file], $covered->by($mutant->file)));
    }

    /** @param callable(Mutant): list<list<string>> $runs what is run of PHPUnit, one after another, until one notices */
    private function each(Room $room, callable $runs): void
    {
        $copies = array_map(fn (int $number): Copy => new Copy($this->root, $number), range(1, 'src' === $room->name ? 1 : self::BESIDE));
        if ('src' === $room->name) {
            $copies[0]->withDatabase();
        }
        $waiting = $room->sample;
        /** @var array<int, array{mutant: Mutant, now: list<string>, anew: bool, left: list<list<string>>, process: Process}> $running */
        $running = [];
        while ([] !== $waiting || [] !== $running) {
            foreach ($copies as $i => $copy) {
                if (!isset($running[$i]) && [] !== $waiting) {
                    $mutant = array_shift($waiting);
                    $copy->put($mutant->file, $mutant->in((string) file_get_contents($this->root.'/'.$mutant->file)));
                    $left = $runs($mutant);
                    $running[$i] = [
                        'mutant' => $mutant,
                        'now' => $left[0] ?? [],
                        'anew' => false,
                        'left' => \array_slice($left, 1),
                        'process' => $copy->tests($left[0] ?? ['--list-groups'], self::longest($mutant)),
                    ];
                }
                if (isset($running[$i])) {
                    $over = $this->look($room, $copy, $running[$i]);
                    if (null === $over) {
                        $copy->put($running[$i]['mutant']->file, (string) file_get_contents($this->root.'/'.$running[$i]['mutant']->file));
                        unset($running[$i]);
                    } else {
                        $running[$i] = $over;
                    }
                }
            }
            usleep(20_000);
        }
    }

    /**
     * @param array{mutant: Mutant, now: list<string>, anew: bool, left: list<list<string>>, process: Process} $one
     *
     * @return array{mutant: Mutant, now: list<string>, anew: bool, left: list<list<string>>, process: Process}|null null where it is over
     */
    private function look(Room $room, Copy $copy, array $one): ?array
    {
        $words = $one['mutant']->words();
        try {
            $one['process']->checkTimeout();
        } catch (ProcessTimedOutException) {
            $room->noticed[$words] = 'it never ended';

            return null;
        }
        if ($one['process']->isRunning()) {
            return $one;
        }
        $failed = !$one['process']->isSuccessful();
        if ($failed && 'src' === $room->name && $one['anew']) {
            $copy->withDatabase();
        } elseif ($failed && 'src' === $room->name) {
            $again = $this->again($copy, $one['mutant'], $one['now']);
            if (null !== $again) {
                return ['process' => $again, 'anew' => true] + $one;
            }
            $failed = !isset($this->broken[implode(' ', $one['now'])]);
        }
        if ($failed) {
            $room->noticed[$words] = 1 === preg_match('/^1\) (\S+)/m', $one['process']->getOutput(), $m) ? $m[1] : 'it does not run';

            return null;
        }
        if ([] === $one['left']) {
            $room->unnoticed[] = $one['mutant'];
            printf("  unnoticed %s  %s\n", $one['mutant']->id(), $words);

            return null;
        }
        $next = array_shift($one['left']);

        return ['mutant' => $one['mutant'], 'now' => $next, 'anew' => false, 'left' => $one['left'], 'process' => $copy->tests($next, self::longest($one['mutant']))];
    }

    /**
     * Whether tests pass without the mistake that they failed with: those that do not, notice none. What an earlier run left in the database, when a
     * mistake ended it, may make them fail.
     *
     * @param list<string> $tests
     *
     * @return Process|null the tests once more, with the mistake, in a database made anew; null where they are no more to be asked
     */
    private function again(Copy $copy, Mutant $mutant, array $tests): ?Process
    {
        if (isset($this->broken[implode(' ', $tests)])) {
            return null;
        }
        $mistaken = (string) file_get_contents($copy->root.'/'.$mutant->file);
        $copy->put($mutant->file, (string) file_get_contents($this->root.'/'.$mutant->file));
        $process = $copy->tests($tests, 400);
        $process->wait();
        $holds = $process->isSuccessful();
        if (!$holds) {
            $copy->withDatabase();
            $process = $copy->tests($tests, 400);
            $process->wait();
            if (!$process->isSuccessful()) {
                $this->broken[implode(' ', $tests)] = true;
                printf("  %s fails without a mistake:\n%s\n", implode(' ', $tests), mb_substr($process->getOutput(), -600));
            }
        }
        $copy->put($mutant->file, $mistaken);

        return $holds || isset($this->broken[implode(' ', $tests)]) ? null : $copy->tests($tests, self::longest($mutant));
    }

    /** Seconds after which a mistake is taken to make something endless. */
    private static function longest(Mutant $mutant): int
    {
        return str_starts_with($mutant->file, 'core/') ? 90 : 400;
    }

    private function tell(Room $room): void
    {
        if (!$this->told) {
            printf("%-14s %6s %8s %7s %17s %6s\n", 'room', 'tried', 'noticed', 'share', 'interval', 'equal');
            $this->told = true;
        }
        [$low, $high] = Room::interval(\count($room->noticed), $room->tried());
        printf(
            "%-14s %6d %8d %6.0f%% %8.0f – %3.0f %% %6d\n",
            $room->name, $room->tried(), \count($room->noticed), 100 * $room->share(), 100 * $low, 100 * $high, $room->equal,
        );
    }

    /** @param list<Room> $rooms */
    private function sum(array $rooms): bool
    {
        $core = array_filter($rooms, static fn (Room $room): bool => 'src' !== $room->name);
        $noticed = array_sum(array_map(static fn (Room $room): int => \count($room->noticed), $core));
        $tried = array_sum(array_map(static fn (Room $room): int => $room->tried(), $core));
        if ([] !== $core) {
            [$low, $high] = Room::interval($noticed, $tried);
            printf("%-14s %6d %8d %6.0f%% %8.0f – %3.0f %%\n", 'the core', $tried, $noticed, 100 * $noticed / max(1, $tried), 100 * $low, 100 * $high);
        }
        $weak = array_filter($rooms, static fn (Room $room): bool => $room->share() < ('src' === $room->name ? self::APPLICATION : self::ROOM));
        foreach ($weak as $room) {
            printf("%s is below its limit.\n", $room->name);
        }

        return [] === $weak && ([] === $core || 1 === \count($core) || $noticed >= self::CORE * $tried);
    }
}
