<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Cage\Child;
use Symfony\Component\Process\PhpExecutableFinder;

/** Starts the processes in which sessions are served. */
final class Served
{
    /**
     * One that reaches servers, and dies with this process.
     *
     * @throws CageError
     */
    public static function beside(): Child
    {
        $path = getenv('PATH');

        return new Child(
            Child::bound([self::php(), '-d', 'display_errors=stderr', '-d', 'memory_limit=1G', '-r', Serving::code(\dirname(__DIR__, 3).'/core', __DIR__)]),
            'The session',
            ['PATH' => \is_string($path) ? $path : '/usr/bin:/bin'],
        );
    }

    /**
     * One in a cage, where the files of parts() are to be read.
     *
     * @param string $extension of PHP, by which its door reads
     *
     * @throws CageError
     */
    public static function caged(Cage $cage, string $extension): Child
    {
        return $cage->start([
            self::php(), '-n', '-d', 'display_startup_errors=0', '-d', 'display_errors=stderr', '-d', 'memory_limit=512M', '-d', 'pcre.backtrack_limit=200000',
            '-d', 'extension=mbstring', '-d', "extension=$extension", '-r', Serving::code('/core', '/connector'),
        ]);
    }

    /** @return array<string, string> what of the application the process in a cage reads, and where it finds it */
    public static function parts(): array
    {
        return [\dirname(__DIR__, 3).'/core' => '/core', __DIR__ => '/connector'];
    }

    private static function php(): string
    {
        return (string) realpath((string) (new PhpExecutableFinder())->find(false));
    }
}
