<?php

declare(strict_types=1);

namespace Fasti\Bench\Mutants;

use Symfony\Component\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

/** A copy of the house in which mistakes are made and its tests run, one after another. */
final class Copy
{
    private const LINKED = ['node_modules', 'public'];

    public readonly string $root;

    public function __construct(string $of, int $number)
    {
        $this->root = $of.'/var/mutants/'.$number;
        $files = new Filesystem();
        $files->remove($this->root);
        $files->mkdir([$this->root.'/var', $of.'/var/mutants']);
        foreach ([
            'core', 'src', 'tests', 'config', 'templates', 'assets', 'demo', 'bench', 'bin', 'migrations', 'docs', '.env', '.env.test', 'composer.json',
            'phpunit.dist.xml',
        ] as $part) {
            (new Process(['cp', '-a', "$of/$part", $this->root.'/']))->mustRun();
        }
        // Of what is not ours another name for the same files is enough.
        (new Process(['cp', '-al', "$of/vendor", $this->root.'/'], timeout: 300))->mustRun();
        foreach (self::LINKED as $part) {
            $files->symlink("$of/$part", $this->root.'/'.$part);
        }
        $files->symlink("$of/var/run", $this->root.'/var/run');
        $files->symlink("$of/var/house", $this->root.'/var/house');
    }

    /** A database of its own, and the kernel compiled, for tests of the application. */
    public function withDatabase(): void
    {
        $environment = ['APP_ENV' => 'test', 'APP_DEBUG' => '0', 'DATABASE_NAME' => 'fasti_mutants'];
        $run = fn (string ...$command): Process => (new Process($command, $this->root, $environment, timeout: 300))->mustRun();
        (new Process(['bin/prepare'], \dirname($this->root, 3), timeout: 600))->mustRun();
        $run('bin/console', 'doctrine:database:drop', '--if-exists', '--force', '--quiet');
        $run('bin/console', 'doctrine:database:create', '--quiet');
        $run('bin/console', 'doctrine:migrations:migrate', '--no-interaction', '--quiet', '--allow-no-migration');
        $run('bin/console', 'cache:warmup', '--quiet');
    }

    public function put(string $file, string $code): void
    {
        file_put_contents($this->root.'/'.$file, $code);
    }

    /**
     * @param list<string>          $what        arguments of PHPUnit
     * @param array<string, string> $environment
     */
    public function tests(array $what, int $seconds, array $environment = []): Process
    {
        $process = new Process(
            [\PHP_BINARY, '-d', 'memory_limit=1G', 'vendor/bin/phpunit', '--no-progress', '--stop-on-defect', '--do-not-cache-result', ...$what],
            $this->root,
            $environment + ['APP_ENV' => 'test', 'FASTI_WARM' => '1', 'DATABASE_NAME' => 'fasti_mutants'],
            timeout: $seconds,
        );
        $process->start();

        return $process;
    }
}
