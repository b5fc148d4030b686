<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Survey;

use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\OddSchema;
use Symfony\Component\Process\Exception\ProcessSignaledException;
use Symfony\Component\Process\Process;

final class KilledTest extends AppTestCase
{
    private const NAME = 'killed in the middle';

    protected function tearDown(): void
    {
        $server = OddSchema::server();
        $server->exec("DELETE FROM fasti_test.source WHERE name = '".self::NAME."'");
        parent::tearDown();
    }

    public function testAWorkerKilledInTheMiddleOfStoringAppliesNothing(): void
    {
        $worker = new Process([\PHP_BINARY, __DIR__.'/killed.php', self::NAME], env: ['APP_ENV' => 'test']);
        try {
            $worker->run();
            self::fail('It lived on: '.$worker->getOutput().$worker->getErrorOutput());
        } catch (ProcessSignaledException $e) {
            self::assertSame(\SIGKILL, $e->getSignal());
        }
        self::assertMatchesRegularExpression('/^storing \d+ of 900$/m', $worker->getOutput(), 'It had begun to store.');
        // The server notices that its client is gone and rolls back by itself; that takes it a moment.
        $count = static fn (string $sql): int => (int) (OddSchema::server()->query($sql) ?: throw new \LogicException($sql))->fetchColumn();
        self::assertSame(1, $count("SELECT COUNT(*) FROM fasti_test.source WHERE name = '".self::NAME."'"));
        self::assertSame(0, $count("SELECT COUNT(*) FROM fasti_test.entry WHERE name LIKE 'killed%'"));
        self::assertSame(0, $count("SELECT COUNT(*) FROM fasti_test.identifier WHERE folded LIKE 'killed%'"));
        self::assertSame(0, $count('SELECT COUNT(*) FROM fasti_test.field'));
    }
}
