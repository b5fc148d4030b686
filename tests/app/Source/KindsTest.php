<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Source;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Cadence;
use Fasti\Source\Deliveries;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use Symfony\Component\Filesystem\Filesystem;
use Symfony\Component\HttpFoundation\File\UploadedFile;

/** Adding a source of each kind, and what is refused in words. */
final class KindsTest extends AppTestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->folder = sys_get_temp_dir().'/fasti-kinds-'.bin2hex(random_bytes(4));
        (new Filesystem())->mkdir([$this->folder, self::root().'/var/test/files']);
    }

    protected function tearDown(): void
    {
        (new Filesystem())->remove([$this->folder, self::root().'/var/test/files']);
        parent::tearDown();
    }

    public function testFilesAreHandedInChosenFromAndSurveyed(): void
    {
        $this->signedIn();
        $this->handIn(
            'papers',
            'files',
            [
                's.sql' => "CREATE TABLE station (id int PRIMARY KEY, code varchar(5));\nCREATE TABLE visit (id int PRIMARY KEY, station_id int REFERENCES "
                    .'station);',
                'm.jsonl' => '{"a":1}',
                'l.csv' => "x,y\n1,2\n",
            ],
        );
        self::assertResponseRedirects();
        $source = $this->latest();
        $this->client->followRedirect();
        self::assertSelectorTextContains('.objects', 'station');
        self::assertSelectorTextContains('.objects', 'm · collection');

        $this->survey($source);
        self::assertSame(4, self::scalar('SELECT COUNT(*) FROM entry WHERE source_id = ? AND gone_at IS NULL', $source->id()));
        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM entry_join j JOIN entry e ON e.id = j.from_entry_id WHERE e.source_id = ?', $source->id()));
    }

    public function testAPackedDeliveryIsUnpacked(): void
    {
        $zip = new \ZipArchive();
        $zip->open($this->folder.'/all.zip', \ZipArchive::CREATE);
        $zip->addFromString('deep/er/a.csv', "x,y\n1,2\n");
        $zip->addFromString('../../b.jsonl', '{"a":1}');
        $zip->addFromString('readme.txt', 'not read');
        $zip->close();
        $folder = self::get(Deliveries::class)->keep([
            'all.zip' => $this->folder.'/all.zip',
            'c.jsonl.gz' => $this->file('c.gz', (string) gzencode('{"b":2}')),
        ]);

        self::assertSame(['a.csv', 'b.jsonl', 'c.jsonl'], array_map(basename(...), glob($folder.'/*') ?: []));
        self::assertStringStartsWith(self::root().'/var/test/files/handed/', $folder);
        self::assertSame('{"b":2}', file_get_contents($folder.'/c.jsonl'));
    }

    public function testAnArchiveThatWouldFillTheDiskIsRefusedAndLeavesNothing(): void
    {
        $bomb = $this->folder.'/bomb.csv';
        $out = fopen($bomb, 'w') ?: throw new \LogicException();
        for ($i = 0; $i < 80; ++$i) {
            fwrite($out, str_repeat('0', 1 << 20));
        }
        fclose($out);
        $zip = new \ZipArchive();
        $zip->open($this->folder.'/bomb.zip', \ZipArchive::CREATE);
        $zip->addFile($bomb, 'a.csv');
        $zip->close();
        foreach ([
            'bomb.zip' => $this->folder.'/bomb.zip',
            'a.csv.gz' => $this->file('b.gz', (string) gzencode((string) file_get_contents($bomb), 9)),
        ] as $name => $path) {
            try {
                self::get(Deliveries::class)->keep([$name => $path]);
                self::fail('It was unpacked.');
            } catch (SourceError $e) {
                self::assertStringContainsString('grows beyond all measure', $e->getMessage());
            }
        }
        self::assertSame([], glob(self::root().'/var/test/files/handed/*') ?: []);
    }

    /** @return iterable<string, array{string, string, string, string}> */
    public static function wrong(): iterable
    {
        yield 'an ending that says nothing' => ['files', 'a.xyz', 'x', 'The ending of “a.xyz” does not say what it is'];
        yield 'no archive' => ['files', 'a.zip', 'not packed', 'is not a zip archive'];
        yield 'not packed' => ['files', 'a.csv.gz', 'not packed', 'is not packed with gzip'];
    }

    #[DataProvider('wrong')]
    public function testWhatCannotBeTakenIsSaidOnTheForm(string $engine, string $name, string $content, string $words): void
    {
        $this->signedIn();
        $this->handIn('bad', $engine, [$name => $content]);

        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString($words, html_entity_decode($this->content(), \ENT_QUOTES));
        self::assertSame(0, self::scalar("SELECT COUNT(*) FROM source WHERE name = 'bad'"));
    }

    #[TestWith(['a.json', 'no json', 'not JSON'])]
    #[TestWith(['a.sql', '{"a":1}', 'looks like JSON'])]
    #[TestWith(['a.csv', "\0\1", 'a binary file'])]
    public function testAFileThatIsNotWhatItsEndingSaysFailsTheSurveyInWordsAndLeavesTheRegister(string $name, string $content, string $words): void
    {
        $this->signedIn();
        $this->handIn('odd', 'files', [$name => $content]);
        $source = $this->latest();
        $source->choose(new \Fasti\Core\Survey\Choice());
        self::get(EntityManagerInterface::class)->flush();
        $survey = $this->survey($source);

        self::assertSame('failed', $survey['state']);
        self::assertStringContainsString($words, $survey['error']);
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry WHERE source_id = ?', $source->id()));
    }

    public function testAPathLeadsNowhereButBelowTheFolderOfFiles(): void
    {
        $this->signedIn();
        file_put_contents(self::root().'/var/test/files/big.csv', "a,b\n1,2\n");
        foreach (['/etc/passwd' => 422, '../../../.env' => 422, 'nothing.csv' => 422, 'big.csv' => 302] as $path => $status) {
            $page = $this->client->request('GET', '/sources/new');
            $this->client->submit(
                $page->selectButton('Save and choose what to read')->form([
                    'source_form[name]' => 'p'.$status.$path,
                    'source_form[engine]' => 'files',
                    'source_form[path]' => $path,
                ]),
            );
            self::assertResponseStatusCodeSame($status, $path);
        }
    }

    public function testPostgreSqlIsTestedAndAddedByItsUrl(): void
    {
        $target = Engines::made(__DIR__.'/../../schemas/postgresql.sql');
        $this->signedIn();
        $page = $this->client->request('GET', '/sources/new');
        $url = \sprintf('postgresql://fasti:x@127.0.0.1:%d/%s', $target->port, $target->database);
        $this->client->request(
            'POST', '/sources/test', ['_token' => (string) $page->filter('[data-token]')->attr('data-token'), 'url' => $url], [],
            ['HTTP_X_REQUESTED_WITH' => 'fetch'],
        );
        self::assertStringContainsString('Connected to PostgreSQL', $this->content());
        self::assertStringContainsString('8 tables and 2 views', $this->content());

        $this->client->submit($page->selectButton('Save and choose what to read')->form(['source_form[name]' => 'pg', 'source_form[url]' => $url]));
        $source = $this->latest();
        $this->survey($source);
        $source = $this->latest();
        self::assertSame(['postgresql', 'postgresql'], [$source->connection()->engine, $source->engine]);
        $this->client->request('GET', '/register/'.self::entryId('station'));
        self::assertStringContainsString('one of good, suspect, it&#039;s bad', $this->content());
        self::assertStringContainsString('instant, to the millisecond', $this->content());
        Engines::drop($target);
    }

    public function testASourceKeepsItsEntriesWhenItIsReachedAnotherWay(): void
    {
        $this->signedIn();
        $this->handIn('rivers', 'files', ['s.sql' => "-- SQLite\nPRAGMA x;\nCREATE TABLE station (id INTEGER PRIMARY KEY AUTOINCREMENT, code varchar(5));"]);
        $source = $this->latest();
        $this->survey($source);
        $entry = self::entryId('station');

        $path = $this->folder.'/live.sqlite';
        (new \PDO('sqlite:'.$path))->exec('CREATE TABLE station (id INTEGER PRIMARY KEY AUTOINCREMENT, code varchar(9))');
        $page = $this->client->request('GET', '/sources/'.$source->id().'/connection');
        $form = $page->selectButton('Save and choose what to read')->form(['source_form[engine]' => 'sqlite']);
        $this->client->request(
            'POST',
            $form->getUri(),
            $form->getPhpValues(),
            ['source_form' => ['files' => [new UploadedFile($path, 'live.sqlite', null, null, true)]]],
        );
        self::assertResponseRedirects();
        $survey = $this->survey($this->latest());

        self::assertSame($entry, self::entryId('station'));
        self::assertStringContainsString('"change":"changed"', (string) json_encode(json_decode($survey['drift'], true)));
        self::assertStringContainsString('varchar(9)', $survey['drift']);
    }

    public function testNamesTooLongForTheRegisterAreLeftOutAndSaid(): void
    {
        $this->signedIn();
        $this->handIn(
            'long',
            'files',
            ['s.sql' => \sprintf(
                "-- SQLite\nPRAGMA x;\nCREATE TABLE %s (id INTEGER PRIMARY KEY AUTOINCREMENT);\nCREATE TABLE kept (id int, %s int);",
                str_repeat('t', 300),
                str_repeat('c', 800),
            )],
        );
        $survey = $this->survey($this->latest());

        self::assertSame(['done', ''], [$survey['state'], $survey['error']]);
        self::assertSame(['kept', 1], [self::db()->fetchOne('SELECT MAX(name) FROM entry'), self::scalar('SELECT COUNT(*) FROM field')]);
        $this->client->request('GET', '/surveys/'.self::scalar('SELECT MAX(id) FROM survey'));
        self::assertStringContainsString('its name has more than 255 characters', $this->content());
        self::assertStringContainsString('kept: 1 field was left out', $this->content());
    }

    public function testASourceIsDueWhenItsTimeHasCome(): void
    {
        $now = new \DateTimeImmutable('2026-03-10 06:00');

        self::assertTrue(Cadence::Day->isDue(new \DateTimeImmutable('2026-03-09 06:20'), $now));
        self::assertFalse(Cadence::Day->isDue(new \DateTimeImmutable('2026-03-09 20:00'), $now));
        self::assertTrue(Cadence::Week->isDue(null, $now));
        self::assertFalse(Cadence::Never->isDue(null, $now));
    }

    public function testACollectionMayBePlannedAndIsNotMissedBySurveys(): void
    {
        $this->signedIn();
        $this->handIn('messages', 'files', ['m.jsonl' => '{"a":1}']);
        $source = $this->latest();
        $this->survey($source);
        $page = $this->client->request('GET', '/sources/'.$source->id().'/plan');
        $this->client->submit($page->selectButton('Plan it')->form(['name' => 'alarms', 'members' => 'level colour']));
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('could not be read', $this->content());
        $this->client->submit(
            $page->selectButton('Plan it')->form([
                'name' => 'alarms',
                'about' => 'What goes wrong',
                'members' => "at string (date-time) required\nlevel integer",
            ]),
        );
        self::assertResponseRedirects('/register/'.self::entryId('alarms'));
        $this->survey($source);

        self::assertSame(0, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'alarms' AND gone_at IS NOT NULL"));
        $this->client->followRedirect();
        self::assertSelectorTextContains('.page', 'Planned: no document was read');
    }

    public function testDocumentsAreTestedAgainstTheSchemaThatAStewardTightened(): void
    {
        $this->signedIn();
        $this->handIn('messages', 'files', ['m.jsonl' => "{\"a\":1,\"b\":\"x\"}\n{\"a\":2}\n"]);
        $this->survey($this->latest());
        $id = self::entryId('m');
        $page = $this->client->request('GET', "/register/$id/schema");
        $drawn = (string) $page->filter('textarea')->text(null, false);
        self::assertJson($drawn);
        self::assertStringContainsString('"required": [', $drawn);
        $this->tested($id, "{\"a\":1}\n");
        self::assertStringContainsString('satisfies the schema', $this->content());

        $page = $this->client->request('GET', "/register/$id/schema");
        $this->client->submit($page->selectButton('Keep this schema')->form(['schema' => str_replace('"a"'."\n", "\"a\",\n \"b\"\n", $drawn)]));
        self::assertResponseRedirects();
        $this->tested($id, "{\"a\":1,\"b\":\"y\"}\n{\"a\":1}\n");
        self::assertStringContainsString('1 of 2 documents does not satisfy', $this->content());
        self::assertStringContainsString('(b)', $this->content());

        $page = $this->client->request('GET', "/register/$id/schema");
        $this->client->submit($page->selectButton('Keep this schema')->form(['schema' => '{"a":']));
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('textarea', '{"a":');
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM change_event WHERE property = 'jsonSchema'"));
    }

    private function tested(int $id, string $documents): void
    {
        $page = $this->client->request('GET', "/register/$id/schema");
        $form = $page->selectButton('Test')->form();
        $this->client->request(
            'POST',
            $form->getUri(),
            $form->getPhpValues(),
            ['documents' => new UploadedFile($this->file('d.jsonl', $documents), 'd.jsonl', null, null, true)],
        );
        self::assertResponseIsSuccessful();
    }

    /** @param array<string, string> $files */
    private function handIn(string $name, string $engine, array $files): void
    {
        $page = $this->client->request('GET', '/sources/new');
        $form = $page->selectButton('Save and choose what to read')->form(['source_form[name]' => $name, 'source_form[engine]' => $engine]);
        $uploads = [];
        foreach ($files as $file => $content) {
            $uploads[] = new UploadedFile($this->file($file, $content), $file, null, null, true);
        }
        $this->client->request('POST', $form->getUri(), $form->getPhpValues(), ['source_form' => ['files' => $uploads]]);
    }

    private function file(string $name, string $content): string
    {
        file_put_contents($this->folder.'/'.$name, $content);

        return $this->folder.'/'.$name;
    }

    private function latest(): Source
    {
        $entities = self::get(EntityManagerInterface::class);
        $entities->clear();

        return $entities->getRepository(Source::class)->findOneBy([], ['id' => 'DESC']) ?? throw new \LogicException();
    }

    /** @return array{state: string, error: string, drift: string} */
    private function survey(Source $source): array
    {
        $id = self::surveyed($source->id());
        $row = self::db()->fetchAssociative('SELECT j.state, j.error, s.drift FROM survey s JOIN job j ON j.id = s.job_id WHERE s.id = ?', [$id]) ?: [];
        $text = static fn (string $key): string => \is_string($row[$key] ?? null) ? $row[$key] : '';

        return ['state' => $text('state'), 'error' => $text('error'), 'drift' => $text('drift')];
    }

    private static function root(): string
    {
        return \dirname(__DIR__, 3);
    }
}
