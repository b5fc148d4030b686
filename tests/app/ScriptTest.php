<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** What the scripts say before they do anything. */
final class ScriptTest extends TestCase
{
    private static function root(): string
    {
        return \dirname(__DIR__, 2);
    }

    /** @param list<string> $command */
    private static function ran(array $command): Process
    {
        $process = new Process($command, self::root(), ['DATABASE_NAME' => 'fasti_script', 'APP_ENV' => 'prod'], timeout: 60);
        $process->run();

        return $process;
    }

    #[TestWith(['--port', 'abc', '“abc” is not a port'])]
    #[TestWith(['--port', '99999', '“99999” is not a port'])]
    #[TestWith(['--port', '0', '“0” is not a port'])]
    #[TestWith(['--colour', 'red', 'unknown option --colour'])]
    public function testBadOptionsAreSaidAndNothingIsStarted(string $option, string $value, string $words): void
    {
        $process = self::ran(['bin/start', $option, $value]);

        self::assertNotSame(0, $process->getExitCode());
        self::assertStringContainsString($words, $process->getErrorOutput());
    }

    public function testABusyPortIsSaid(): void
    {
        $busy = stream_socket_server('tcp://127.0.0.1:0');
        self::assertIsResource($busy);
        $port = (string) substr((string) strrchr((string) stream_socket_get_name($busy, false), ':'), 1);
        $process = self::ran(['bin/start', '--port', $port]);

        self::assertSame(1, $process->getExitCode());
        self::assertStringContainsString("port $port is taken by another program. Name another with --port", $process->getErrorOutput());
    }

    public function testPreparingWhatIsPreparedSaysAndDoesNothing(): void
    {
        $process = self::ran(['bin/prepare']);

        self::assertSame([0, '', ''], [$process->getExitCode(), $process->getOutput(), $process->getErrorOutput()]);
    }

    public function testHelpShowsTheOptions(): void
    {
        self::assertStringContainsString('--fresh', self::ran(['bin/start', '--help'])->getOutput());
    }
}
