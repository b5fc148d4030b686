<?php

declare(strict_types=1);

namespace Fasti\Bench\Mutants;

/**
 * Which tests run which file. Each test file is run once in a process of its own, which tells the files that it loaded; what it
 * told is kept for as long as neither changes.
 */
final class Covered
{
    private const FORM = 1;

    /** @var array<string, array{files: list<string>, seconds: float}> by test */
    private array $known = [];
    private readonly string $tests;

    /** @param string $top core or src */
    public function __construct(private readonly string $root, private readonly string $top)
    {
        $this->tests = 'src' === $top ? 'app' : 'core';
        $kept = "$root/var/mutants/covered.$top.json";
        $list = is_file($kept) ? json_decode((string) file_get_contents($kept), true) : null;
        $stamp = self::FORM.hash('xxh128', implode('', array_map(
            static fn (string $file): string => md5_file($file).$file,
            [...$this->all(), ...$this->within("$root/$top", '.php')],
        )));
        if (\is_array($list) && ($list['stamp'] ?? '') === $stamp && \is_array($list['tests'] ?? null)) {
            /** @var array<string, array{files: list<string>, seconds: float}> $tests */
            $tests = $list['tests'];
            $this->known = $tests;

            return;
        }
        $copy = new Copy($root, 1);
        if ('src' === $top) {
            $copy->withDatabase();
        }
        foreach ($this->all() as $test) {
            $began = microtime(true);
            $told = $root.'/var/mutants/loaded.txt';
            @unlink($told);
            $copy->tests([substr($test, \strlen($root) + 1)], 900, ['FASTI_LOADED' => $told])->wait();
            $files = is_file($told) ? explode("\n", (string) file_get_contents($told)) : [];
            $this->known[substr($test, \strlen($root) + 1)] = [
                'files' => array_values(array_filter($files, fn (string $file): bool => str_starts_with($file, $this->top.'/'))),
                'seconds' => microtime(true) - $began,
            ];
        }
        file_put_contents($kept, json_encode(['stamp' => $stamp, 'tests' => $this->known]));
    }

    /** @return list<string> those of the file's own room first, then the quick before the slow */
    public function by(string $file): array
    {
        $room = explode('/', $file)[1];
        $found = array_filter($this->known, static fn (array $one): bool => \in_array($file, $one['files'], true));
        uksort($found, fn (string $a, string $b): int => [!str_starts_with($a, "tests/$this->tests/$room/"), $found[$a]['seconds']]
            <=> [!str_starts_with($b, "tests/$this->tests/$room/"), $found[$b]['seconds']]);

        return array_keys($found);
    }

    /** @return list<string> */
    private function all(): array
    {
        return array_values(array_filter(
            $this->within($this->root.'/tests/'.$this->tests, 'Test.php'),
            static fn (string $file): bool => !\in_array(basename($file), ['HouseTest.php', 'StyleTest.php'], true),
        ));
    }

    /** @return list<string> */
    private function within(string $folder, string $ending): array
    {
        $found = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo && str_ends_with($file->getFilename(), $ending)) {
                $found[] = $file->getPathname();
            }
        }
        sort($found);

        return $found;
    }
}
