<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Fasti\Core\Catalog\Place;
use Opis\JsonSchema\Validator;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;
use Symfony\Component\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

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

    /** @param array<string, string> $more */
    private function drawn(string $out, array $more = []): CommandTester
    {
        return $this->command(
            'fasti:diagram',
            ['target' => $this->folder.'/s.sql', '--out' => $this->folder.'/'.$out, '--dialect' => 'postgresql'] + $more,
        );
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
        self::assertStringStartsWith('{"engine":"mariadb","server":"', preg_replace('/\s+/', '', substr($tester->getDisplay(), 0, 60)) ?? '');

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

        self::assertStringContainsString('a, b refers to '.new Place(OddSchema::NAME, 'parts').' (a, b)', $tester->getDisplay());
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
        self::assertSame(
            1,
            $this->command('fasti:diagram', ['target' => OddSchema::url(), '--out' => $this->folder.'/e.svg', '--include' => ['none*']])->getStatusCode(),
        );
    }

    public function testADiagramIsWrittenOfFilesInEveryFormatAndAroundATable(): void
    {
        file_put_contents($this->folder.'/s.sql', 'CREATE TABLE station (id int PRIMARY KEY);
            CREATE TABLE reading (id int PRIMARY KEY, station_id int REFERENCES station (id));
            CREATE TABLE flag (id int PRIMARY KEY, reading_id int REFERENCES reading (id)); CREATE TABLE alone (id int);');
        $draw = $this->drawn(...);
        self::assertStringContainsString('4 entries, 2 joins', $draw('d.svg')->getDisplay());
        self::assertStringContainsString('2 entries, 1 join', $draw('d.png', ['--from' => 'Station', '--width' => '700'])->getDisplay());
        self::assertSame(700, getimagesize($this->folder.'/d.png')[0] ?? 0);
        self::assertStringContainsString('3 entries, 2 joins', $draw('d.pdf', ['--from' => 'station', '--steps' => '2', '--paper' => 'a4'])->getDisplay());
        self::assertStringStartsWith('%PDF-', (string) file_get_contents($this->folder.'/d.pdf'));
        foreach ([
            'no table or view “lake”' => ['d.svg', ['--from' => 'lake']],
            'ends in no format' => ['d.gif', []],
            'The paper is one of A4' => ['d.pdf', ['--paper' => 'B5']],
            'At least one step' => ['d.svg', ['--from' => 'station', '--steps' => '0']],
            'The detail is' => ['d.svg', ['--detail' => 'most']],
        ] as $words => [$out, $more]) {
            $refused = $draw($out, $more);
            self::assertSame(1, $refused->getStatusCode(), $words);
            self::assertStringContainsString($words, $refused->getErrorOutput());
        }
    }

    public function testADiagramThatIsKeptIsWrittenByItsName(): void
    {
        self::apply($this->source('rivers'), \Fasti\Tests\Core\Made::catalog(\Fasti\Tests\Core\Made::table('station'), \Fasti\Tests\Core\Made::table('lake')));
        $places = [self::entryId('station') => [0.0, 0.0], self::entryId('lake') => [500.0, 0.0]];
        self::get(\Fasti\Diagram\Beginning::class)->begin($this->account(), 'Waters', 'All of them', $places, \Fasti\Core\Diagram\Detail::All);

        $tester = $this->command('fasti:diagram', ['--kept' => 'Waters', '--out' => $this->folder.'/w.svg']);
        self::assertSame(0, $tester->getStatusCode(), $tester->getErrorOutput());
        self::assertStringContainsString('All of them', (string) file_get_contents($this->folder.'/w.svg'));
        $refused = $this->command('fasti:diagram', ['--kept' => 'Fires', '--out' => $this->folder.'/w.svg']);
        self::assertStringContainsString('There are: “Waters”', $refused->getErrorOutput());
        $both = $this->command('fasti:diagram', ['target' => 'x.sql', '--kept' => 'Waters', '--out' => $this->folder.'/w.svg']);
        self::assertStringContainsString('and not both', $both->getErrorOutput());
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
        self::assertStringContainsString(
            'no source called “lakes”',
            $this->command('fasti:publish', ['--out' => $out, '--source' => 'lakes'])->getErrorOutput(),
        );
    }

    public function testSurveysReadEveryKindOfTarget(): void
    {
        file_put_contents($this->folder.'/s.sql', "CREATE TABLE station (id int PRIMARY KEY);\nCREATE TABEL broken (x int);");
        file_put_contents($this->folder.'/l.csv', "x,y\n1,2\n");
        file_put_contents($this->folder.'/m.jsonl', "{\"a\":1}\n");
        $lite = $this->folder.'/live.sqlite';
        (new \PDO('sqlite:'.$lite))->exec('CREATE TABLE inside (id INTEGER PRIMARY KEY)');
        $zip = new \ZipArchive();
        $zip->open($this->folder.'/all.zip', \ZipArchive::CREATE);
        $zip->addFile($this->folder.'/l.csv', 'packed.csv');
        $zip->close();
        foreach ([
            'sqlite://'.$lite => 'table main.inside', $lite => 'table main.inside', $this->folder.'/l.csv' => 'table files.l',
            $this->folder.'/m.jsonl' => 'collection files.m', $this->folder.'/all.zip' => 'table files.packed', $this->folder => 'collection files.m',
        ] as $target => $words) {
            $tester = $this->command('fasti:survey', ['target' => $target]);
            self::assertSame(0, $tester->getStatusCode(), $target.$tester->getErrorOutput());
            self::assertStringContainsString($words, $tester->getDisplay());
        }
        $tester = $this->command('fasti:survey', ['target' => $this->folder.'/s.sql', '--dialect' => 'mysql']);
        self::assertStringContainsString('table files.station', $tester->getDisplay());
        self::assertStringContainsString('1 was not and is left out', $tester->getErrorOutput());
        $tester = $this->command('fasti:survey', ['target' => $this->folder.'/s.sql', '--dialect' => 'cobol']);
        self::assertSame([1, true], [$tester->getStatusCode(), str_contains($tester->getErrorOutput(), '“cobol” is no dialect that Fasti reads.')]);
        (new Filesystem())->remove(\dirname(__DIR__, 2).'/var/test/files');
    }

    public function testEveryKindOfCatalogFollowsTheSchema(): void
    {
        file_put_contents($this->folder.'/m.jsonl', "{\"version\":1,\"at\":\"2024-01-01\",\"flag\":\"G\"}\n{\"version\":2,\"at\":7}\n");
        foreach ([$this->folder.'/m.jsonl', __DIR__.'/../schemas/sqlite.sql', __DIR__.'/../schemas/postgresql.sql'] as $target) {
            $display = $this->command('fasti:survey', ['target' => $target, '--format' => 'json'])->getDisplay();
            $result = (new Validator())->validate(json_decode($display), (string) file_get_contents(\dirname(__DIR__, 2).'/docs/catalog.schema.json'));
            self::assertTrue($result->isValid(), $target.' '.json_encode($result->error()?->args()));
        }
    }

    public function testWhatACommandWasGivenStandsInNoLogWhenItFails(): void
    {
        $process = new Process(
            [\PHP_BINARY, 'bin/console', 'fasti:account', 'a@example.org', 'Ada', 'reader', 'secret-of-ada-9', 'mysql://reader:secret-8@h/x'],
            \dirname(__DIR__, 2), ['APP_ENV' => 'test'],
        );
        self::assertNotSame(0, $process->run());
        $log = \dirname(__DIR__, 2).'/var/log/test-'.gmdate('Y-m-d').'.log';
        $said = (string) file_get_contents($log);

        self::assertStringContainsString('fasti:account …', $said);
        self::assertStringNotContainsString('secret-of-ada', $said);
        self::assertStringNotContainsString('secret-8', $said);
        self::assertSame('0600', substr(\sprintf('%o', fileperms($log)), -4));
    }

    public function testThePasswordOfAnAccountIsReadAndNeverAnArgument(): void
    {
        $process = new Process(
            [\PHP_BINARY, 'bin/console', 'fasti:account', 'ada@example.org', 'Ada', 'reader'],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'test'],
            'short',
        );
        self::assertSame(1, $process->run());
        self::assertStringContainsString('A password has 12 characters at least', $process->getErrorOutput());
        $tester = new CommandTester((new Application(self::$kernel ?? throw new \LogicException('No kernel.')))->find('fasti:account'));
        $tester->setInputs(['twelve-letters-9']);
        self::assertSame(0, $tester->execute(['email' => 'ada@example.org', 'name' => 'Ada', 'role' => 'reader'], ['interactive' => false]));
        self::assertSame('ada@example.org may sign in as reader.', trim($tester->getDisplay()));
        $tester = $this->command('fasti:account', ['email' => 'ada@example.org', 'name' => 'Ada', 'role' => 'queen']);
        self::assertSame(1, $tester->getStatusCode());
        self::assertStringContainsString('There is no role “queen”. There are: reader, steward, administrator.', (string) preg_replace(
            '/\s+/', ' ', $tester->getErrorOutput(),
        ));
    }

    public function testWhatStandsOutIsToldForBuildServers(): void
    {
        file_put_contents(
            $this->folder.'/s.sql',
            'CREATE TABLE station (id INT PRIMARY KEY, code CHAR(6)); CREATE TABLE loose (line INT); CREATE TABLE spare (line INT);',
        );
        $input = ['target' => $this->folder.'/s.sql', '--dialect' => 'mariadb'];
        $tester = $this->command('fasti:check', $input + ['--format' => 'json']);
        self::assertSame(1, $tester->getStatusCode(), 'A table without a key is a fault.');
        $told = (array) json_decode($tester->getDisplay(), true);
        self::assertSame(['findings'], array_keys($told));
        $keys = array_values(array_filter((array) $told['findings'], static fn (mixed $one): bool => \is_array($one) && 'no-primary-key' === $one['check']));
        self::assertCount(1, $keys, 'What is of one kind is one line.');
        self::assertIsArray($keys[0]);
        self::assertSame(['check', 'severity', 'where', 'what', 'why', 'mend'], array_keys($keys[0]));
        self::assertSame('fault', $keys[0]['severity']);
        self::assertSame('2 tables have no primary key', $keys[0]['what']);
        self::assertSame(['loose', 'spare'], array_column((array) $keys[0]['where'], 'table'));
        self::assertSame([null, null], array_column((array) $keys[0]['where'], 'column'));

        $xml = simplexml_load_string($this->command('fasti:check', $input + ['--format' => 'junit'])->getDisplay());
        self::assertNotFalse($xml);
        self::assertCount(1, $xml->xpath("//testcase[contains(@name, 'no-primary-key')]/failure") ?: []);
        self::assertCount(0, $xml->xpath("//testcase[contains(@name, 'reserved-word')]/failure") ?: []);
        self::assertStringContainsString('loose', $this->command('fasti:check', $input)->getDisplay());

        file_put_contents($this->folder.'/s.sql', "CREATE TABLE station (id INT PRIMARY KEY COMMENT 'x', code CHAR(6) COMMENT 'x') COMMENT 'x';");
        self::assertSame(0, $this->command('fasti:check', $input)->getStatusCode());
        foreach ([
            [
                $input + ['--data' => true],
                'There is no data behind station',
            ], [$input + ['--fail-on' => 'grave'], 'note, doubt or fault'], [$input + ['--format' => 'xml'], 'text, json or junit'],
            [[], 'Name a target'], [['--source' => 'nowhere'], 'no source “nowhere”'], [['target' => $this->folder.'/none.sql'], ''],
        ] as [$wrong, $says]) {
            $tester = $this->command('fasti:check', $wrong);
            self::assertSame(2, $tester->getStatusCode());
            self::assertStringContainsString($says, $tester->getErrorOutput());
            self::assertSame('', $tester->getDisplay());
        }
    }

    public function testWhatTheRegisterKeepsIsToldWithoutWhatIsSetAside(): void
    {
        $source = $this->source();
        self::apply($source, \Fasti\Tests\Core\Made::catalog(\Fasti\Tests\Core\Made::table('order', [], [], 'Orders')));
        $told = fn (): string => $this->command('fasti:check', ['--source' => 'rivers', '--format' => 'json', '--fail-on' => 'doubt'])->getDisplay();
        self::assertStringContainsString('reserved-word', $told());
        $id = self::scalar("SELECT id FROM finding WHERE check_name = 'reserved-word'");
        $account = $this->account();
        self::get(\Fasti\Finding\Findings::class)->setAside($id, true, $account, 'Quoted everywhere', '2999-12-31');
        self::assertStringNotContainsString('reserved-word', $told());
        self::get(\Fasti\Finding\Findings::class)->setAside($id, true, $account, 'Until lately', '2020-12-31');
        self::assertStringContainsString('reserved-word', $told(), 'The day until which it was set aside is over.');
    }

    public function testDraftsOfATargetAreToldByWhatItSaysOfItself(): void
    {
        file_put_contents($this->folder.'/s.sql', 'CREATE TABLE station (id INT PRIMARY KEY AUTO_INCREMENT, opened_on DATE);
            CREATE TABLE visit (id INT PRIMARY KEY, station_id INT, created_by INT, FOREIGN KEY (station_id) REFERENCES station (id));');
        $input = ['target' => $this->folder.'/s.sql', '--dialect' => 'mariadb'];
        $told = (array) json_decode($this->command('fasti:drafts', $input + ['--format' => 'json'])->getDisplay(), true);
        $found = [];
        foreach ((array) $told['drafts'] as $draft) {
            self::assertIsArray($draft);
            self::assertSame(['of', 'property', 'text', 'confidence', 'because'], array_keys($draft));
            self::assertIsArray($draft['of']);
            self::assertSame(['schema', 'table', 'column'], array_keys($draft['of']));
            self::assertGreaterThanOrEqual(0.3, $draft['confidence']);
            self::assertLessThan(1.0, $draft['confidence']);
            self::assertNotEmpty($draft['because']);
            $found[implode(
                '.',
                array_map(
                    static fn (mixed $part): string => \is_string($part) ? $part : '',
                    [$draft['of']['table'], $draft['of']['column'], $draft['property']],
                ),
            )] = $draft['text'];
        }
        self::assertSame('The day on which the station was opened. Empty while it has not been.', $found['station.opened_on.meaning']);
        self::assertSame('Opened on', $found['station.opened_on.businessName']);
        self::assertSame('is at', $found['visit.station_id.verb']);
        self::assertSame('Station', $found['station..businessName']);
        self::assertStringContainsString('opened_on', $this->command('fasti:drafts', $input)->getDisplay());
        self::assertSame(2, $this->command('fasti:drafts', $input + ['--data' => true])->getStatusCode());
        self::assertSame(2, $this->command('fasti:drafts', $input + ['--format' => 'xml'])->getStatusCode());
    }

    public function testAProfileIsPrinted(): void
    {
        file_put_contents($this->folder.'/visits.csv', "station,person_email,depth\nA,x@arrowmere.example,1\nA,y@arrowmere.example,2\nB,,\n");
        $tester = $this->command('fasti:profile', ['target' => $this->folder, '--table' => 'visits', '--format' => 'json', '--grain' => 'station']);
        self::assertSame(0, $tester->getStatusCode(), $tester->getErrorOutput());
        $profile = json_decode($tester->getDisplay(), true);
        self::assertIsArray($profile);
        self::assertSame([3, 1], [$profile['rows'], $profile['repeated']]);
        self::assertStringNotContainsString('x@arrowmere', $tester->getDisplay());
        self::assertStringContainsString(
            'B × 1',
            $this->command('fasti:profile', ['target' => $this->folder.'/visits.csv', '--table' => 'files.visits'])->getDisplay(),
        );
        $tester = $this->command('fasti:profile', ['target' => $this->folder.'/visits.csv', '--table' => 'nothing']);
        self::assertSame([1, true], [$tester->getStatusCode(), str_contains($tester->getErrorOutput(), 'There is no table “nothing”.')]);
    }

    public function testTwoTargetsAreCompared(): void
    {
        file_put_contents(
            $this->folder.'/a.sql',
            'CREATE TABLE station (id int PRIMARY KEY, stn_code varchar(5), opened date); CREATE TABLE lost (weight int);',
        );
        file_put_contents($this->folder.'/b.sql', 'CREATE TABLE station (id int PRIMARY KEY, station_code varchar(5), opened date NOT NULL);');
        $tester = $this->command('fasti:compare', ['before' => $this->folder.'/a.sql', 'after' => $this->folder.'/b.sql']);
        self::assertSame(1, $tester->getStatusCode());
        foreach (['changed  files.station', 'renamed  station_code, was stn_code', 'changed  opened: it is required now', 'gone     files.lost'] as $words) {
            self::assertStringContainsString($words, $tester->getDisplay());
        }
        $kept = $this->command('fasti:survey', ['target' => $this->folder.'/a.sql', '--format' => 'json'])->getDisplay();
        file_put_contents($this->folder.'/kept.json', $kept);
        $tester = $this->command('fasti:compare', ['before' => $this->folder.'/kept.json', 'after' => $this->folder.'/a.sql', '--format' => 'json']);
        self::assertSame([0, '[]'], [$tester->getStatusCode(), trim($tester->getDisplay())]);
    }

    public function testDocumentsAreTestedAgainstASchema(): void
    {
        file_put_contents($this->folder.'/d.jsonl', "{\"a\":1}\n{\"a\":\"x\"}\n{}\n");
        file_put_contents($this->folder.'/s.json', '{"type":"object","required":["a"],"properties":{"a":{"type":"integer"}}}');
        $tester = $this->command('fasti:validate', ['documents' => $this->folder.'/d.jsonl', '--schema' => $this->folder.'/s.json']);

        self::assertSame(1, $tester->getStatusCode());
        self::assertStringContainsString('document 2, a: ', $tester->getDisplay());
        self::assertStringContainsString('document 3, the document itself: ', $tester->getDisplay());
        self::assertStringContainsString('2 of 3 documents do not satisfy the schema.', $tester->getDisplay());
        self::assertSame(2, $this->command('fasti:validate', ['documents' => $this->folder.'/d.jsonl'])->getStatusCode());
    }

    /** What the survey says of documents must be true of each of them, whatever they are. */
    public function testDocumentsSatisfyTheSchemaThatWasWorkedOutFromThem(): void
    {
        \Fasti\Demo\Telemetry::make($this->folder);
        $catalog = \Fasti\Core\Files\FilesReader::open($this->folder)->read(new \Fasti\Core\Survey\Choice(), new \Fasti\Core\Survey\SilentProgress());
        foreach (['telemetry.jsonl', 'gateways.json'] as $file) {
            $table = $catalog->table('files', explode('.', $file)[0]) ?? throw new \LogicException();
            file_put_contents($this->folder.'/schema', json_encode(\Fasti\Core\Files\JsonSchema::of($table)));
            $tester = $this->command('fasti:validate', ['documents' => $this->folder.'/'.$file, '--schema' => $this->folder.'/schema']);
            self::assertSame(0, $tester->getStatusCode(), $tester->getDisplay());
        }
        self::assertCount(3, $catalog->table('files', 'telemetry')->shapes ?? []);
        self::assertSame('gateways', $catalog->table('files', 'telemetry')?->foreignKeys[0]->references->table);
    }

    public function testTheSchedulerStartsWhatIsDueAndNothingElse(): void
    {
        $source = $this->source('due');
        $source->choose(new \Fasti\Core\Survey\Choice());
        $source->cadence = \Fasti\Source\Cadence::Day;
        $this->source('never asked')->choose(new \Fasti\Core\Survey\Choice());
        self::get(\Doctrine\ORM\EntityManagerInterface::class)->flush();

        self::assertSame('Survey of due asked for.', trim($this->command('fasti:survey-due', [])->getDisplay()));
        self::assertSame('', trim($this->command('fasti:survey-due', [])->getDisplay()), 'It is on its way already.');
        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM survey'));
    }
}
