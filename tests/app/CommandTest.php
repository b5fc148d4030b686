<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Opis\JsonSchema\Validator;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;
use Symfony\Component\Filesystem\Filesystem;

/** The command line: the same computation without the interface. */
final class CommandTest extends AppTestCase
{
    private string $folder = '';

    public static function setUpBeforeClass(): void
    {
        OddSchema::make();
    }

    public static function tearDownAfterClass(): void
    {
        OddSchema::drop();
    }

    protected function setUp(): void
    {
        parent::setUp();
        $this->folder = sys_get_temp_dir().'/fasti-test-'.bin2hex(random_bytes(4));
        (new Filesystem())->mkdir([$this->folder, \dirname(__DIR__, 2).'/var/test/editions']);
    }

    protected function tearDown(): void
    {
        (new Filesystem())->remove([$this->folder, \dirname(__DIR__, 2).'/var/test/editions']);
        parent::tearDown();
    }

    /** @param array<string, mixed> $input */
    private function command(string $name, array $input): CommandTester
    {
        $tester = new CommandTester((new Application(self::$kernel ?? throw new \LogicException('No kernel.')))->find($name));
        $tester->execute($input, ['capture_stderr_separately' => true]);

        return $tester;
    }

    public function testASurveyAsJsonFollowsItsSchema(): void
    {
        $tester = $this->command('fasti:survey', ['target' => OddSchema::url(), '--format' => 'json']);
        self::assertSame(0, $tester->getStatusCode());
        self::assertStringStartsWith('{"tables":[{"schema":', preg_replace('/\s+/', '', substr($tester->getDisplay(), 0, 60)) ?? '');

        $validator = new Validator();
        $result = $validator->validate(json_decode($tester->getDisplay()), (string) file_get_contents(\dirname(__DIR__, 2).'/docs/catalog.schema.json'));
        self::assertTrue($result->isValid(), (string) json_encode($result->error()?->args()));
        $broken = json_decode(str_replace('"kind": "table"', '"kind": "thing"', $tester->getDisplay()));
        self::assertFalse($validator->validate($broken, (string) file_get_contents(\dirname(__DIR__, 2).'/docs/catalog.schema.json'))->isValid());
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry'), 'Nothing is stored.');
    }

    public function testASurveyAsTextSaysTypesInWordsAndCanBeNarrowed(): void
    {
        $tester = $this->command('fasti:survey', ['target' => OddSchema::url(), '--include' => ['uses', 'with*'], '--exclude' => ['with*']]);

        self::assertStringContainsString('a, b refers to '.OddSchema::NAME.'.parts (a, b)', $tester->getDisplay());
        self::assertStringNotContainsString('with space', $tester->getDisplay());
        self::assertStringContainsString('whole number, to ±2.14 billion', $tester->getDisplay());
    }

    public function testAFailureIsSaidOnStandardErrorWithoutTheSecret(): void
    {
        foreach ([['fasti:survey', []], ['fasti:diagram', ['--out' => $this->folder.'/x.svg']]] as [$name, $more]) {
            $tester = $this->command($name, ['target' => OddSchema::url(['account' => 'nobody'])] + $more);
            self::assertSame(1, $tester->getStatusCode());
            self::assertSame('', $tester->getDisplay());
            self::assertStringContainsString('does not accept this account', $tester->getErrorOutput());
            self::assertStringNotContainsString(OddSchema::SECRET, $tester->getErrorOutput());
        }
    }

    public function testADiagramIsWritten(): void
    {
        $tester = $this->command('fasti:diagram', ['target' => OddSchema::url(), '--out' => $this->folder.'/d.svg', '--detail' => 'all']);

        self::assertSame(0, $tester->getStatusCode(), $tester->getErrorOutput());
        $svg = new \DOMDocument();
        self::assertTrue($svg->load($this->folder.'/d.svg'));
        self::assertStringContainsString('7 entries, 1 join', $tester->getDisplay());
        self::assertSame(1, $this->command('fasti:diagram', ['target' => OddSchema::url(), '--out' => '/no/such/folder/d.svg'])->getStatusCode());
        self::assertSame(1, $this->command('fasti:diagram', ['target' => OddSchema::url(), '--out' => $this->folder.'/e.svg', '--include' => ['none*']])->getStatusCode());
    }

    public function testAnEditionIsPublishedToAFolderThatIsFree(): void
    {
        self::apply($this->source('rivers'), \Fasti\Tests\Core\Made::catalog(\Fasti\Tests\Core\Made::table('station')));
        $out = $this->folder.'/site';

        self::assertSame(0, $this->command('fasti:publish', ['--out' => $out, '--source' => 'rivers'])->getStatusCode());
        self::assertFileExists($out.'/rivers/main/station.html');
        self::assertSame(0, $this->command('fasti:publish', ['--out' => $out])->getStatusCode(), 'An edition may be replaced.');

        file_put_contents($this->folder.'/mine.txt', 'x');
        $refused = $this->command('fasti:publish', ['--out' => $this->folder]);
        self::assertSame(1, $refused->getStatusCode());
        self::assertStringContainsString('left alone', $refused->getErrorOutput());
        self::assertFileExists($this->folder.'/mine.txt');
        self::assertStringContainsString('no source called “lakes”', $this->command('fasti:publish', ['--out' => $out, '--source' => 'lakes'])->getErrorOutput());
    }
}
