<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Attack;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Unanswerable;
use Fasti\Design\Beginning;
use Fasti\Design\DesignJob;
use Fasti\Design\Designs;
use Fasti\Design\KeptDesign;
use Fasti\Design\Planning;
use Fasti\Design\Sampling;
use Fasti\Draft\DraftsJob;
use Fasti\Edition\Editions;
use Fasti\Join\JoinsJob;
use Fasti\Model\Editing;
use Fasti\Model\Grounds;
use Fasti\Model\KeptModel;
use Fasti\Model\ModelJob;
use Fasti\Model\Models;
use Fasti\Profile\ProfileJob;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\OddSchema;
use Fasti\Work\RunJobHandler;
use PHPUnit\Framework\Attributes\DataProvider;

/**
 * Secret and personal fields of a source hold marked values. Every kind of job runs over it and fails over it; then every page, file and
 * edition is looked through, as each role. Nothing marked is there.
 */
final class MarkedValuesTest extends AppTestCase
{
    private const SCHEMA = 'fasti_marked';
    private const MARK = 'mrkd';
    private const PAGES = 260;
    private static bool $made = false;

    private Source $marked;
    private KeptModel $model;
    private KeptDesign $design;

    public static function tearDownAfterClass(): void
    {
        if (self::$made) {
            OddSchema::server()->exec('DROP DATABASE IF EXISTS '.self::SCHEMA);
            OddSchema::server()->exec("DROP USER IF EXISTS fasti_marked@'127.0.0.1'");
        }
    }

    protected function setUp(): void
    {
        parent::setUp();
        $server = OddSchema::server();
        self::$made = true;
        foreach ([
            'DROP DATABASE IF EXISTS '.self::SCHEMA, 'CREATE DATABASE '.self::SCHEMA, 'USE '.self::SCHEMA,
            'CREATE TABLE person (id INT NOT NULL PRIMARY KEY, full_name VARCHAR(60) NOT NULL, email VARCHAR(80) NOT NULL UNIQUE, phone VARCHAR(30),
                password_hash VARCHAR(80), api_token VARCHAR(60),
                country CHAR(2), born_on DATE)',
            'CREATE TABLE visit (id INT NOT NULL PRIMARY KEY, person_id INT, person_email VARCHAR(80), contact_phone VARCHAR(30), day DATE,
                hours DECIMAL(4,1), note TEXT,
                FOREIGN KEY (person_id) REFERENCES person (id))',
            "CREATE OR REPLACE USER fasti_marked@'127.0.0.1' IDENTIFIED BY "
                ."'marked'", 'GRANT SELECT, SHOW VIEW ON '.self::SCHEMA.".* TO fasti_marked@'127.0.0.1'",
        ] as $sql) {
            $server->exec($sql);
        }
        for ($i = 1; $i <= 40; ++$i) {
            $server->exec(\sprintf("INSERT INTO person VALUES (%d, 'Oona Mrkd%s', 'mrkd%d@arrowmere.example', '+49 170 mrkd %05d', '\$2y\$10\$mrkd%040d', "
                ."'mrkd%030d', 'DE', '1980-01-%02d')",
                $i, \chr(64 + $i % 26 + 1), $i, $i, $i, $i * 7, $i % 28 + 1));
            // Some emails lead nowhere, some stand twice, a note speaks of somebody.
            $server->exec(\sprintf("INSERT INTO visit VALUES (%d, %d, 'mrkd%d@arrowmere.example', '+49 170 mrkd %05d', '2026-01-%02d', %d.5, 'asked "
                ."mrkd%d@arrowmere.example')",
                $i, $i, 0 === $i % 9 ? $i + 900 : $i, $i, $i % 28 + 1, $i % 8, $i));
        }
        $this->marked = $this->source('rivers', self::SCHEMA, 'fasti_marked', 'marked');
        self::surveyed($this->marked->id());
        $steward = $this->account(Role::STEWARD, 'Oona Lisk');
        $this->client->loginUser($steward);
        $this->job(self::get(ProfileJob::class), ProfileJob::payload($this->marked->id(), [self::entryId('person'), self::entryId('visit')], 0));
        $this->model = $this->model($steward);
        $this->design = self::get(Beginning::class)->begin($steward, 'Next', '', $this->marked->id(), [self::entryId('person'), self::entryId('visit')]);
        $this->design->shared = true;
        self::get(Designs::class)->save();
    }

    public function testNothingMarkedIsFoundAfterEveryKindOfJobHasRunAndFailed(): void
    {
        $this->everyJob();
        self::get(Editions::class)->now('First', []);
        // Now with what makes each of them fail, and with what engines say then.
        $server = OddSchema::server();
        $server->exec('USE '.self::SCHEMA);
        $server->exec('ALTER TABLE visit DROP FOREIGN KEY visit_ibfk_1, MODIFY person_id VARCHAR(80)');
        $server->exec('UPDATE visit SET person_id = person_email WHERE id < 9');
        $server->exec('ALTER TABLE person MODIFY country VARCHAR(60)');
        $server->exec('UPDATE person SET country = email WHERE id < 5');
        $server->exec('CREATE VIEW broken AS SELECT (SELECT email FROM person) AS x, id FROM person');
        self::surveyed($this->marked->id());
        $this->everyJob();
        $edition = self::get(Editions::class)->now('Second', []);
        $server->exec('DROP TABLE visit');
        $this->everyJob();

        $found = [];
        foreach ([Role::READER, Role::STEWARD, Role::ADMINISTRATOR] as $role) {
            $this->client->loginUser($this->account($role, 'Ida '.$role));
            foreach ($this->crawled() as $path => $content) {
                if (false !== stripos($content, self::MARK)) {
                    $found[$role.' '.$path] = mb_substr($content, max(0, (int) stripos($content, self::MARK) - 60), 120);
                }
            }
        }
        $folder = self::get(Editions::class)->folder($edition->number);
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo && false !== stripos((string) file_get_contents($file->getPathname()), self::MARK)) {
                $found['edition '.$file->getFilename()] = '';
            }
        }
        // Nor is it kept anywhere that no page shows today.
        foreach (self::db()->createSchemaManager()->listTableNames() as $table) {
            foreach (self::db()->iterateAssociative("SELECT * FROM `$table`") as $row) {
                // What was sought in vain is kept as it was typed.
                if ('sought' !== $table && false !== stripos(implode("\n", array_filter($row, is_string(...))), self::MARK)) {
                    $found["table $table"] = mb_substr((string) json_encode($row), 0, 300);
                }
            }
        }

        self::assertSame([], $found);
    }

    /**
     * @param list<string>                              $measures
     * @param list<string>                              $by
     * @param list<array{string, Test, list<string>}> $where
     */
    #[DataProvider('questions')]
    public function testASecretIsAskedAboutByNobody(array $measures, array $by, array $where): void
    {
        $planner = new Planner(self::get(Grounds::class)->of($this->model), new \DateTimeImmutable('2026-06-01'));
        try {
            $planner->plan(new Trial($measures, $by, array_map(static fn (array $one): Condition => new Condition($one[0], $one[1], $one[2]), $where)));
            self::fail('It should have been refused.');
        } catch (Unanswerable $e) {
            self::assertStringContainsString('is closed (it holds secrets', $e->getMessage());
        }
    }

    /** @return iterable<string, array{list<string>, list<string>, list<array{string, Test, list<string>}>}> */
    public static function questions(): iterable
    {
        yield 'grouped by' => [['visits'], ['token'], []];
        yield 'within an expression' => [['visits'], ['beginning of the token'], []];
        yield 'as a filter' => [['visits'], [], [['token', Test::Is, ['x']]]];
        yield 'the greatest' => [['greatest token'], [], []];
        yield 'the least' => [['least token'], [], []];
        yield 'how many different' => [['tokens'], [], []];
        yield 'the filter of a measure' => [['visits with a token'], [], []];
        yield 'sorted by' => [['visits'], ['name by token'], []];
    }

    public function testTheSameQuestionsWithoutASecretAreAnswered(): void
    {
        $planner = new Planner(self::get(Grounds::class)->of($this->model), new \DateTimeImmutable('2026-06-01'));

        self::assertStringContainsString('country', $planner->plan(new Trial(['visits'], ['country']))->sql());
    }

    public function testASampleHoldsNothingOfAnybodyAndFitsTogether(): void
    {
        [, $before] = self::get(Planning::class)->of($this->design);
        $rows = self::get(Sources::class)->rows(self::get(Sources::class)->target($this->marked), 20) ?? throw new \LogicException();
        $sample = Sampling::of($rows, $before, self::get(Planning::class)->closed($this->marked));

        self::assertStringNotContainsStringIgnoringCase(self::MARK, (string) json_encode($sample));
        $people = array_values($sample)[0];
        $visits = array_values($sample)[1];
        if (!isset($people[0]['password_hash'])) {
            [$people, $visits] = [$visits, $people];
        }
        self::assertCount(40, $people);
        self::assertCount(40, array_unique(array_column($people, 'email')));
        self::assertStringStartsWith('made-up', (string) $people[0]['password_hash']);
        self::assertMatchesRegularExpression('/^[a-z]{4}\d+@[a-z]{9}\.[a-z]{7}$/', (string) $people[0]['email']);
        // The same value became the same other one, wherever it stood.
        self::assertSame($people[0]['email'], $visits[0]['person_email']);
        self::assertSame('DE', $people[0]['country']);
    }

    private function everyJob(): void
    {
        $source = $this->marked->id();
        $this->job(self::get(ProfileJob::class), ProfileJob::payload($source, [self::entryId('person'), self::entryId('visit')], 0));
        $this->job(self::get(JoinsJob::class), ['source' => $source]);
        $this->job(self::get(DraftsJob::class), ['source' => $source]);
        $this->job(self::get(ModelJob::class), ['model' => $this->model->id(), 'whole' => 1]);
        $this->job(self::get(DesignJob::class), ['design' => $this->design->id(), 'what' => 'change']);
    }

    /** @param array<string, mixed> $payload */
    private function job(\Fasti\Work\JobKind $kind, array $payload): void
    {
        // Those that were asked for by themselves meanwhile would go first.
        self::db()->executeStatement("UPDATE job SET state = 'cancelled' WHERE state = 'waiting'");
        $job = self::get(RunJobHandler::class)->now($kind, 'marked '.$kind->name(), $payload, null);
        self::assertTrue($job->state->over(), $kind->name());
        $orm = self::get(EntityManagerInterface::class);
        if (isset($this->model)) {
            $this->model = self::get(Models::class)->one($this->model->id()) ?? $this->model;
        }
        if (isset($this->design)) {
            $this->design = self::get(Designs::class)->one($this->design->id()) ?? $this->design;
        }
        $this->marked = $orm->find(Source::class, $this->marked->id()) ?? $this->marked;
    }

    private function model(Account $steward): KeptModel
    {
        $entry = static fn (string $name): array => ['schema' => self::SCHEMA, 'name' => $name];
        $measure = static fn (string $name, string $how, string $expression = '', string $filter = ''): array => [
            'name' => $name, 'aggregation' => $how, 'fact' => 'visit', 'expression' => $expression, 'filter' => $filter,
        ];
        $model = ModelFile::read(json_encode([
            'format' => 'fasti-model-1', 'source' => 'rivers', 'name' => 'Visits', 'purpose' => 'who came',
            'roles' => [
                ['name' => 'visit', 'kind' => 'fact', 'entry' => $entry('visit'), 'key' => ['id']],
                ['name' => 'person', 'kind' => 'dimension', 'entry' => $entry('person'), 'key' => ['id'], 'label' => 'name', 'attributes' => [
                    ['name' => 'name', 'expression' => 'full_name'], ['name' => 'email', 'expression' => 'email'], [
                        'name' => 'token',
                        'expression' => 'api_token',
                    ],
                    ['name' => 'beginning of the token', 'expression' => 'SUBSTRING(api_token FROM 1 FOR 2)'], ['name' => 'country', 'expression' => 'country'],
                    ['name' => 'name by token', 'expression' => 'country', 'sorted' => 'password_hash'],
                ]],
            ],
            'joins' => [[
                'from' => 'visit', 'fields' => ['person_id'], 'to' => 'person', 'keys' => ['id'], 'fromEnd' => 'none-or-more', 'toEnd' => 'none-or-one',
            ]],
            'measures' => [
                $measure('visits', 'count'), $measure('hours', 'sum', 'hours'), $measure('last email', 'greatest', 'person_email'), $measure(
                    'emails',
                    'distinct count',
                    'person_email',
                ),
                $measure(
                    'greatest token',
                    'greatest',
                    'person.api_token',
                ), $measure('least token', 'least', 'person.password_hash'), $measure('tokens', 'distinct count', 'person.api_token'),
                $measure('visits with a token', 'count', '', "person.api_token = 'x'"), $measure('as a number', 'sum', 'CAST(person.country AS integer)'),
            ],
            'hierarchies' => [['name' => 'people', 'levels' => [['role' => 'person', 'attribute' => 'name'], ['role' => 'person', 'attribute' => 'email']]]],
        ], \JSON_THROW_ON_ERROR));
        $kept = self::get(Editing::class)->begin($steward, 'Visits', 'who came', $this->marked, $model);
        $kept->shared = true;
        $models = self::get(Models::class);
        foreach ([
            new Trial(['visits', 'last email'], ['name']), new Trial(['hours'], ['email']), new Trial(['emails'], ['country']),
            new Trial(['visits'], ['token']), new Trial(['as a number'], ['country']),
        ] as $i => $trial) {
            $one = $models->keepTrial($kept, "Trial $i", $trial, $steward);
            $one->rowsPublished = true;
        }
        $models->save();

        return $kept;
    }

    /** @return iterable<string, string> what stands at each address that pages lead to, at most three of each kind but for what differs in its path */
    private function crawled(): iterable
    {
        $waiting = ['/', '/register', '/sources', '/models', '/designs', '/desk', '/diagrams', '/editions',
            '/search?q=email', '/search?q=mrkd1', '/register/joins', '/register/findings', '/register/code-lists',
            '/models/'.$this->model->id().'/checks', '/models/'.$this->model
                ->id().'/trials', '/models/'.$this->model
                ->id().'.json', '/designs/'.$this->design
                ->id().'/changes', '/designs/'.$this->design
                ->id().'.json',
            '/designs/'.$this->design->id().'/script', '/register/'.self::entryId('person'), '/register/'.self::entryId('visit'), '/desk/next'];
        $seen = $kinds = [];
        while ([] !== $waiting && \count($seen) < self::PAGES) {
            $path = array_shift($waiting);
            if (isset($seen[$path])) {
                continue;
            }
            $seen[$path] = true;
            $this->client->request('GET', $path);
            $response = $this->client->getResponse();
            self::assertLessThan(500, $response->getStatusCode(), $path);
            // Pages of errors show the code of this test while it is being developed.
            $content = $response->isClientError() ? '' : (string) $response->getContent();
            // What was looked for stands in the field where it was typed.
            yield $path => str_contains($path, 'q=mrkd1') ? str_replace('mrkd1', '', $content) : $content;
            preg_match_all('/(?:href|data-url|src)="(\/[^"#]*)/', $content, $m);
            foreach (array_unique($m[1]) as $link) {
                $link = html_entity_decode($link);
                $kind = preg_replace('/\d+/', '#', strtok($link, '?') ?: $link) ?? '';
                $kinds[$kind] = ($kinds[$kind] ?? 0) + 1;
                if ($kinds[$kind] <= 6 && !str_contains($link, 'sign-out') && !str_starts_with($link, '/build/')) {
                    $waiting[] = $link;
                }
            }
        }
    }
}
