<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Source;

use Fasti\Core\Survey\SourceError;
use Fasti\Source\Deliveries;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

/** Deliveries that did not arrive whole. */
final class DeliveriesTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/fasti-delivery-'.bin2hex(random_bytes(4));
        (new Filesystem())->mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        (new Filesystem())->remove($this->folder);
    }

    private function packed(): string
    {
        return (string) gzencode('CREATE TABLE station (id int);'.str_repeat("\n-- a line that says nothing much, ".bin2hex(random_bytes(8)), 3000));
    }

    private function kept(string $name, string $content): string
    {
        file_put_contents($this->folder.'/upload', $content);

        return (new Deliveries($this->folder))->keep([$name => $this->folder.'/upload']);
    }

    #[TestWith([0.5])]
    #[TestWith([0.999])]
    public function testAPackedFileThatEndsEarlyIsRefusedAndNothingOfItStays(float $share): void
    {
        $packed = $this->packed();
        try {
            $this->kept('script.sql.gz', substr($packed, 0, (int) ($share * \strlen($packed))));
            self::fail('It was taken for whole.');
        } catch (SourceError $e) {
            self::assertStringContainsString('script.sql.gz', $e->getMessage());
            self::assertNotSame('', $e->advice);
        }
        self::assertSame([], glob($this->folder.'/handed/*'));
    }

    public function testAPackedFileWhoseEndIsDamagedIsRefused(): void
    {
        $packed = $this->packed();
        $this->expectException(SourceError::class);
        $this->kept('script.sql.gz', substr($packed, 0, -8).'12345678');
    }

    public function testAWholeOneIsKeptAndSoIsOneOfTwoMembers(): void
    {
        $folder = $this->kept('script.sql.gz', $this->packed().gzencode("\nCREATE TABLE reading (id int);"));

        self::assertStringContainsString('CREATE TABLE reading', (string) file_get_contents((glob($folder.'/*') ?: [''])[0]));
    }

    /** A limit on the size of files stands for a disk that is full. */
    public function testADiskThatIsFullEndsTheCommandWithAnErrorAndNotWithHalfOfTheFile(): void
    {
        file_put_contents($this->folder.'/script.sql.gz', gzencode(str_repeat("CREATE TABLE station (id int);\n", 20000)));
        $command = \sprintf(
            "trap '' XFSZ; ulimit -f 200; exec %s bin/console fasti:survey %s",
            escapeshellarg(\PHP_BINARY),
            escapeshellarg($this->folder.'/script.sql.gz'),
        );
        $process = new Process(['bash', '-c', $command], \dirname(__DIR__, 3), ['APP_ENV' => 'test']);
        $process->run();

        self::assertSame(1, $process->getExitCode(), $process->getOutput());
        self::assertMatchesRegularExpression('/could not be (?:kept|unpacked|written)|room|full/', $process->getErrorOutput());
    }
}
