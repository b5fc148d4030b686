<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Design\ChangeStep;
use Fasti\Core\Design\Edit;
use Fasti\Core\Design\Edits;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Taking;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Beginning;
use Fasti\Design\Designs;
use Fasti\Design\KeptDesign;
use Fasti\Design\Planning;
use Fasti\Design\Scratch\Scratch;
use Fasti\Design\Scratch\ScratchServers;
use Fasti\Design\Trying;
use Fasti\Kept\KeptNamed;
use Fasti\Register\Entries;
use Fasti\Register\Fields;
use Fasti\Register\FieldView;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Text\SaidStore;
use Fasti\Text\Texts;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;
use Symfony\Component\DomCrawler\Crawler;
use Symfony\Component\DomCrawler\Field\ChoiceFormField;

/** Designs in the application. */
final class DesignsTest extends AppTestCase
{
    /** @var list<string> */
    private array $files = [];

    private static function lending(): string
    {
        return (string) file_get_contents(\dirname(__DIR__, 3).'/demo/lending.outline.txt');
    }

    private function kept(Account $account, string $outline, bool $shared = true): KeptDesign
    {
        $kept = self::get(Designs::class)->make($account, $outline);
        $kept->shared = $shared;
        self::get(Designs::class)->save();

        return $kept;
    }

    /**
     * @param array<string, mixed> $given
     *
     * @return array<mixed>
     */
    private function asked(KeptDesign $kept, string $what, array $given): array
    {
        $crawler = $this->client->request('GET', '/designs/'.$kept->id());
        $token = (string) $crawler->filter('meta[name="texts-token"]')->attr('content');
        $this->client->jsonRequest('POST', '/designs/'.$kept->id()."/$what", $given, ['HTTP_X_CSRF_TOKEN' => $token]);
        $answer = json_decode($this->content(), true);

        return \is_array($answer) ? $answer : [];
    }

    public function testADesignIsBegunWithNothingAndKeptHoweverBrokenItIs(): void
    {
        $this->signedIn();
        $this->client->request('GET', '/designs/new');
        $this->client->submitForm('Make it', ['name' => 'A <b>new</b> "one"', 'purpose' => 'what for']);
        $this->client->followRedirect();
        self::assertResponseIsSuccessful();
        $kept = self::get(Designs::class)->all()[0];
        self::assertSame(['A <b>new</b> "one"', 'what for'], [$kept->name, $kept->purpose]);
        $answer = $this->asked($kept, 'check', ['text' => $kept->outline."\n\nLoan\n  due, dat", 'depth' => 'conceptual']);
        $faults = \is_array($answer['faults'] ?? null) ? $answer['faults'] : [];
        self::assertSame([4], array_column($faults, 'line'));
        self::assertNull($answer['svg']);
        $this->client->request('GET', '/designs');
        self::assertStringNotContainsString('<b>new</b>', $this->content());
    }

    public function testWhatWasUnderstoodLastStandsWhileALineIsBroken(): void
    {
        $account = $this->signedIn();
        $kept = $this->kept($account, "Loan\n  due, date");
        $texts = self::get(Texts::class);
        $texts->save($account, 'design', $kept->id(), 'outline', $kept->outline, "Loan\n  due, dat", 'one');
        $kept = self::get(Designs::class)->fresh($kept);

        self::assertSame(["Loan\n  due, dat", "Loan\n  due, date"], [$kept->outline, $kept->readable]);
        $this->client->request('GET', '/designs/'.$kept->id().'/script');
        self::assertStringContainsString('due date', $this->content());
        self::assertStringContainsString('is not understood', $this->content());
    }

    public function testANameThatIsTooLongIsSaidAndKept(): void
    {
        $this->signedIn(Role::STEWARD, 'Ren Vale');
        $this->client->request('GET', '/designs/new');
        $this->client->submitForm('Make it', ['name' => str_repeat('long ', 30).'name', 'purpose' => 'For the trust']);

        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('The name has 154 characters, and may have 120', $this->content());
        self::assertInputValueSame('name', str_repeat('long ', 30).'name');
        self::assertInputValueSame('purpose', 'For the trust');
    }

    public function testWhatSomebodyHasNotSharedIsSeenByNobodyElse(): void
    {
        $kept = $this->kept($this->account(), self::lending(), false);
        $this->signedIn(Role::STEWARD, 'Ren Vale');
        foreach (['', '/read', '/script', '/history', '/changes', '.json', '.sql', '.outline'] as $page) {
            $this->client->request('GET', '/designs/'.$kept->id().$page);
            self::assertResponseStatusCodeSame(404, $page);
        }
    }

    public function testAReaderReadsASharedDesignAndCannotChangeIt(): void
    {
        $kept = $this->kept($this->account(), self::lending());
        $this->signedIn(Role::READER);
        foreach (['', '/read', '/script'] as $page) {
            $this->client->request('GET', '/designs/'.$kept->id().$page);
            self::assertResponseIsSuccessful($page);
        }
        $this->client->jsonRequest('POST', '/designs/'.$kept->id().'/check', ['text' => $kept->outline, 'depth' => 'logical']);
        self::assertResponseIsSuccessful();
        self::assertStringContainsString('Loan kit', $this->content());
        foreach (['edit', 'format', 'merge', 'places'] as $change) {
            $this->client->request('POST', '/designs/'.$kept->id()."/$change");
            self::assertResponseStatusCodeSame(403);
        }
    }

    public function testAnEditIsMadeOrSaysWhyNot(): void
    {
        $kept = $this->kept($this->signedIn(), self::lending());
        $done = $this->asked(
            $kept,
            'edit',
            ['text' => $kept->outline, 'edits' => [['what' => 'add attribute', 'of' => 'School', 'said' => 'pupils, whole number']]],
        );
        self::assertStringContainsString("  pupils, whole number\n", \is_string($done['text'] ?? null) ? $done['text'] : '');
        $refused = $this->asked($kept, 'edit', ['text' => $kept->outline, 'edits' => [['what' => 'add thing', 'name' => 'school']]]);
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('already', \is_string($refused['error'] ?? null) ? $refused['error'] : '');
    }

    public function testWhatTwoWroteIsPutTogether(): void
    {
        $account = $this->signedIn();
        $kept = $this->kept($account, self::lending());
        $base = $kept->outline;
        self::get(Texts::class)->save($account, 'design', $kept->id(), 'outline', $base, str_replace('town, text up to 60', 'town, text up to 70', $base), 'x');
        $answer = $this->asked($kept, 'merge', ['base' => $base, 'mine' => str_replace('due on, date, required', 'due on, date', $base)]);

        self::assertSame([], $answer['clashes']);
        self::assertSame(str_replace(['town, text up to 60', 'due on, date, required'], ['town, text up to 70', 'due on, date'], $base), $answer['text']);
    }

    #[DataProvider('depths')]
    public function testItsFilesAreWhatTheirSchemasSay(string $depth, string $schema): void
    {
        $kept = $this->kept($this->signedIn(), self::lending());
        $this->client->request('GET', '/designs/'.$kept->id().".json?depth=$depth");
        $result = (new Validator())->validate(json_decode($this->content()), (string) file_get_contents(\dirname(__DIR__, 3)."/docs/$schema.schema.json"));

        self::assertTrue($result->isValid(), (string) $result->error()?->message());
    }

    /** @return iterable<array{string, string}> */
    public static function depths(): iterable
    {
        yield ['conceptual', 'design'];
        yield ['logical', 'design'];
        yield ['physical', 'catalog'];
    }

    #[DataProvider('engines')]
    public function testItRunsOnAScratchServerAndIsReadBackWithoutADifference(string $engine): void
    {
        $outline = Outline::read(self::lending());
        $ran = self::get(Trying::class)->run(Physical::of($outline->design, $engine), new SilentProgress());

        self::assertSame([null, [], 6], [$ran['failed'], $ran['differences'], $ran['tables']]);
    }

    /** @return iterable<array{string}> */
    public static function engines(): iterable
    {
        yield ['mariadb'];
        yield ['postgresql'];
        yield ['sqlite'];
    }

    public function testAStatementThatFailsIsShownWithWhatTheServerSays(): void
    {
        $outline = Outline::read("Loan\n  due, date\n\nStatement \"broken\", \$\$CREATE NONSENSE\$\$");
        $ran = self::get(Trying::class)->run(Physical::of($outline->design, 'sqlite'), new SilentProgress());

        self::assertSame('CREATE NONSENSE', $ran['failed']['sql'] ?? '');
        self::assertStringContainsString('syntax error', $ran['failed']['said'] ?? '');
    }

    public function testAScratchServerThatDiesIsSaidAndStartsAgain(): void
    {
        $server = self::get(ScratchServers::class)->of('mariadb') ?? throw new \LogicException();
        try {
            $server->with(static function (Scratch $scratch): void {
                exec('pkill -KILL mariadbd --parent '.implode(',', self::descendants(getmypid())));
                usleep(200_000);
                $scratch->exec('CREATE TABLE t (a INT)');
            });
            self::fail('It should have been gone.');
        } catch (SourceError $e) {
            self::assertSame(SourceError::LOST, $e->what, $e->getMessage());
            self::assertStringContainsString('Run it again', $e->inWords());
        }
        self::assertSame(1, $server->with(static fn (Scratch $scratch): int => $scratch->put(['CREATE TABLE t (a INT)'])));
    }

    /** @return list<int> processes below one */
    private static function descendants(int|false $of): array
    {
        $found = [];
        foreach (array_filter(explode(' ', trim((string) @file_get_contents("/proc/$of/task/$of/children")))) as $child) {
            array_push($found, (int) $child, ...self::descendants((int) $child));
        }

        return $found;
    }

    public function testItIsFoundBySearch(): void
    {
        $this->kept($this->signedIn(), self::lending());

        self::assertSame(['Design: Lending to schools'], array_column(self::get(KeptNamed::class)->of('lending to'), 'words'));
        self::assertContains('Thing: Instrument of Lending to schools', array_column(self::get(KeptNamed::class)->of('instrum'), 'words'));
    }

    private function rivers(string $sql): Source
    {
        $file = sys_get_temp_dir().'/fasti-rivers-'.bin2hex(random_bytes(4)).'.sqlite';
        $this->files[] = $file;
        (new \PDO('sqlite:'.$file, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]))->exec($sql);
        $source = new Source();
        $source->name = 'rivers';
        $source->connection()->engine = 'sqlite';
        $source->connection()->path = $file;
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($source);
        $entities->flush();
        self::surveyed($source->id());

        return $entities->find(Source::class, $source->id()) ?? throw new \LogicException();
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), array_filter($this->files, is_file(...)));
        parent::tearDown();
    }

    public function testWhatWasMeantGoesToTheEntriesThatASurveyFinds(): void
    {
        $account = $this->account();
        $this->kept(
            $account,
            "School, one row per school that may borrow\n  meaning \"Who borrows.\"\n  keyed by nothing\n  name, text, meaning \"As it calls itself.\"\n"
            ."  height, whole number, measured in cm\n\nGauge\n  keyed by nothing\n  other, text");
        $this->rivers('CREATE TABLE school (name TEXT, height INTEGER); CREATE TABLE gauge (id INTEGER);');

        $entries = self::get(Entries::class);
        $school = $entries->one(self::entryId('school'));
        self::assertSame(['Who borrows.', 'one row per school that may borrow'], [$school?->meaning, $school?->grain]);
        self::assertSame(['As it calls itself.', ''], array_map(static fn (FieldView $field): string => $field->meaning, $school?->presentFields() ?? []));
        $height = self::get(Fields::class)->ids([$school->id ?? 0])[$school->id ?? 0]['height'] ?? 0;
        self::assertSame('cm', self::get(SaidStore::class)->one('field', $height, 'unit'));
        self::assertSame('', $entries->one(self::entryId('gauge'))?->meaning, 'Another table of that name is none of the design.');
    }

    public function testAPlannedChangeIsWorkedOutTriedWithRowsAndTickedOff(): void
    {
        $account = $this->signedIn();
        $source = $this->rivers('CREATE TABLE school (id INTEGER PRIMARY KEY, name TEXT, town TEXT); INSERT INTO school (name, town) VALUES (\'Weir\', '
            .'\'Ford\'), (\'Mill\', NULL);'
            .' CREATE TABLE other (a INTEGER);');
        $kept = self::get(Beginning::class)->begin($account, 'Next', '', $source->id(), [self::entryId('school')]);
        self::assertSame([], self::get(Planning::class)->of($kept)[0]->steps, 'What was taken is what there is.');
        $text = Edits::of(
            Edits::of($kept->outline, new Edit('rename attribute', 'School', 'town', 'place')),
            new Edit('add attribute', 'School', '', 'pupils, whole number, required, 7 for rows that are there'),
        );
        self::get(Texts::class)->save($account, 'design', $kept->id(), 'outline', $kept->outline, $text, 'x');
        $kept = self::get(Designs::class)->fresh($kept);
        [$changes, $before] = self::get(Planning::class)->of($kept);
        $words = array_map(static fn (ChangeStep $step): string => $step->words, $changes->steps);
        self::assertContains('school.town is called place.', $words);
        self::assertContains('school.pupils comes.', $words);
        self::assertNotContains('other goes, with its rows.', $words);
        $this->client->request('GET', '/designs/'.$kept->id().'/changes');
        $this->client->submitForm('Run it');
        self::work((int) self::scalar('SELECT MAX(id) FROM job'));
        $ran = self::get(Designs::class)->one($kept->id())?->rehearsed;
        self::assertSame(
            [null, [], [['table' => 'school', 'before' => 2, 'after' => 2]]],
            [$ran['failed'] ?? null, $ran['differences'] ?? null, $ran['left'] ?? null],
        );
        self::assertSame('school', $before->tables[0]->name);
        (new \PDO('sqlite:'.$source->connection()->path))->exec('ALTER TABLE school RENAME COLUMN town TO place');
        self::surveyed($source->id());
        $this->client->request('GET', '/designs/'.$kept->id().'/changes');
        self::assertStringContainsString('Carried out since', $this->content());
        self::assertStringContainsString('school.town is called place.', $this->client->getCrawler()->filter('.plan-done')->text());
    }

    public function testWhatRowsDoNotAllowIsCountedDecidedAndTried(): void
    {
        $account = $this->signedIn();
        $source = $this->rivers('CREATE TABLE school (id INTEGER PRIMARY KEY, name TEXT, pupils INTEGER, phone TEXT);'
            .' INSERT INTO school (name, pupils, phone) VALUES (\'Weir\', 12, \'1\'), (\'Mill\', 900, NULL), (\'Ford\', 700, \'22222\');');
        $kept = self::get(Beginning::class)->begin($account, 'Next', '', $source->id(), [self::entryId('school')]);
        $text = (string) preg_replace('/^(\s+pupils, )large whole number$/m', '$1whole number from 0 to 100', $kept->outline);
        $text = (string) preg_replace('/^(\s+phone, )long text$/m', '$1text up to 3', $text);
        self::get(Texts::class)->save($account, 'design', $kept->id(), 'outline', $kept->outline, $text, 'x');
        self::db()->executeStatement("UPDATE field SET personal = 'yes' WHERE name = 'phone'");
        $kept = self::get(Designs::class)->fresh($kept);
        $page = '/designs/'.$kept->id().'/changes';
        $rows = fn (): array => $this->client->request('GET', $page)->filter('.plan-questions tbody tr')->each(
            static fn (Crawler $one): string => (string) preg_replace('/\s+/', ' ', $one->filter('td')->first()->text().' | '.$one->filter('td.n')->text()),
        );
        self::assertStringContainsString('of school that break “school_pupils_check”', implode("\n", $rows()));
        $run = function () use ($page): void {
            $this->client->request('GET', $page);
            $this->client->submit($this->client->getCrawler()->filter('.script-side button')->form());
            self::work((int) self::scalar('SELECT MAX(id) FROM job'));
            $this->client->request('GET', $page);
        };
        $run();
        self::assertSelectorTextContains('.script-side', 'It stops, and nothing has been touched: rows of school break');

        $this->client->submit($this->client->getCrawler()->selectButton('Count them in rivers')->form());
        self::work((int) self::scalar("SELECT MAX(id) FROM job WHERE kind = 'count rows'"));
        $counted = implode("\n", $rows());
        self::assertMatchesRegularExpression('/break “school_pupils_check”.* \| 2$/m', $counted);
        self::assertMatchesRegularExpression('/“phone” is personal or secret, so nothing is asked of it.* \| –$/m', $counted);

        $form = $this->client->getCrawler()->selectButton('Keep what was chosen')->form();
        foreach ($form->all() as $field) {
            if ($field instanceof ChoiceFormField && 'stop' === $field->getValue()) {
                $field->setValue('left out');
            }
        }
        $this->client->submit($form);
        self::assertSame(['left out'], array_values(array_unique(array_filter(
            self::get(Designs::class)->one($kept->id())->fates ?? [], static fn (string $one): bool => 'left out' === $one,
        ))));
        $run();
        self::assertStringNotContainsString('It stops', $this->client->getCrawler()->filter('.script-side')->text());
        $ran = self::get(Designs::class)->one($kept->id())?->rehearsed;
        self::assertNull($ran['failed'] ?? null);
        self::assertStringContainsString('are taken out, and kept in fasti_left_out_1', $this->content());
    }

    private function command(string $name): CommandTester
    {
        return new CommandTester((new Application(self::$kernel ?? throw new \LogicException()))->find($name));
    }

    public function testTheCommandsWriteWhatTheyAreAskedFor(): void
    {
        $file = \dirname(__DIR__, 3).'/demo/lending.outline.txt';
        $design = $this->command('fasti:design');
        self::assertSame(0, $design->execute(['file' => $file, '--dialect' => 'sqlite']));
        self::assertStringContainsString('CREATE TABLE kit', $design->getDisplay());
        self::assertSame(0, $design->execute(['file' => $file, '--format' => 'svg'], ['capture_stderr_separately' => true]));
        self::assertStringStartsWith('<svg', $design->getDisplay());
        self::assertSame(0, $design->execute(['file' => $file, '--format' => 'outline'], ['capture_stderr_separately' => true]));
        self::assertSame((string) file_get_contents($file), $design->getDisplay());
        self::assertSame(0, $design->execute(['file' => $file, '--format' => 'json'], ['capture_stderr_separately' => true]));
        self::assertSame('postgresql', OpenForm::read(Catalog::class, (array) json_decode($design->getDisplay(), true))->engine);
        foreach ([['--dialect' => 'cobol'], ['--format' => 'pdf'], ['--depth' => 'deep']] as $wrong) {
            self::assertSame(2, $design->execute(['file' => $file] + $wrong));
        }
        self::assertSame(2, $design->execute(['file' => '/nowhere']));
    }

    public function testWhatWouldHaveToChangeIsPrinted(): void
    {
        $there = (string) tempnam(sys_get_temp_dir(), 'there').'.sql';
        file_put_contents($there, 'CREATE TABLE school (id integer PRIMARY KEY, town text);');
        $outline = (string) tempnam(sys_get_temp_dir(), 'outline');
        file_put_contents(
            $outline,
            "Design \"x\"\n  keys are what tells things apart\nSchool\n  id, whole number\n  place, long text, formerly town\n  told apart by id\n",
        );
        $design = $this->command('fasti:design');
        self::assertSame(1, $design->execute(['file' => $outline, '--against' => $there, '--dialect' => 'postgresql'], ['capture_stderr_separately' => true]));
        self::assertStringContainsString('ALTER TABLE school RENAME COLUMN town TO place;', $design->getDisplay());
        file_put_contents($there, 'CREATE TABLE school (id integer CONSTRAINT school_pkey PRIMARY KEY, place text);');
        self::assertSame(0, $design->execute(['file' => $outline, '--against' => $there, '--dialect' => 'postgresql'], ['capture_stderr_separately' => true]));
        self::assertSame("-- Nothing has to change.\n", $design->getDisplay());
        self::assertSame(2, $design->execute(['file' => $outline, '--against' => '/nowhere.sql']));
        array_map(unlink(...), [$there, $outline]);
    }

    public function testABrokenOutlineIsNotWrittenAsAScript(): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'outline');
        file_put_contents($file, "Loan\n  due, dat\n");
        $design = $this->command('fasti:design');
        self::assertSame(1, $design->execute(['file' => $file], ['capture_stderr_separately' => true]));
        self::assertSame('', $design->getDisplay());
        self::assertStringContainsString('Line 2: “dat” is no type', $design->getErrorOutput());
        unlink($file);
    }

    public function testAnySourceIsPrintedAsAnOutline(): void
    {
        $outline = $this->command('fasti:outline');
        self::assertSame(0, $outline->execute(['target' => \dirname(__DIR__, 3).'/demo/mart.sql']));
        $read = Outline::read($outline->getDisplay());
        self::assertSame([], $read->faults);
        self::assertGreaterThan(5, \count($read->design->things));
        self::assertNotSame([], Taking::of(Physical::of($read->design)->catalog)[0]->things);
    }
}
