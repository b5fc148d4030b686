<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role as Standing;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\Trial;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Model\AnswerView;
use Fasti\Model\Asker;
use Fasti\Model\Editing;
use Fasti\Model\Grounds;
use Fasti\Model\KeptModel;
use Fasti\Model\KeptTrial;
use Fasti\Model\ModelClaims;
use Fasti\Model\ModelJob;
use Fasti\Model\Models;
use Fasti\Model\TrialFile;
use Fasti\Register\Renaming;
use Fasti\Source\Connection;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use Opis\JsonSchema\Validator;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;
use Symfony\Component\DomCrawler\Crawler;

/** Models in the application, over the analytics database of the demo. */
final class ModelsTest extends AppTestCase
{
    use RiverModel;

    public function testAModelIsProposedFromAFactMadeAndFilledByTaking(): void
    {
        $this->signedIn();
        $this->mart();
        $fact = self::entryId('sighting');
        $crawler = $this->client->request('GET', "/models/new?fact=$fact");
        self::assertSelectorTextContains('.lead', 'A snowflake');
        $this->client->submit($crawler->selectButton('Make it')->form(['name' => 'Sightings']));
        $crawler = $this->client->followRedirect();
        self::assertSelectorTextContains('h1', 'Sightings');
        $kept = self::get(Models::class)->named('Sightings') ?? throw new \LogicException();
        self::assertSame([], $kept->model()->measures);

        $form = $crawler->filter('form[action$="/take"]')->first()->form();
        $this->client->submit($form, ['take[0]' => '', 'take[1]' => 'individuals']);
        $kept = self::get(Models::class)->named('Sightings') ?? throw new \LogicException();
        self::assertSame(['Number of sightings', 'Individuals'], array_map(static fn (Measure $one): string => $one->name, $kept->model()->measures));
        $this->client->request('GET', '/models/'.$kept->id());
        self::assertSelectorTextContains('.measures', 'Individuals');
        self::assertSelectorTextContains('.note', 'It is not said what one row of “sighting” stands for');
    }

    public function testWhatIsNotSharedIsThereForItsOwnerAlone(): void
    {
        $kept = $this->river($this->signedIn(), false);
        $this->client->request('GET', '/models');
        self::assertSelectorTextContains('.models', 'not shared yet');
        $this->client->loginUser($this->account(Standing::ADMINISTRATOR, 'Ren Abara'));
        $this->client->request('GET', '/models/'.$kept->id());
        self::assertResponseStatusCodeSame(404);
        $this->client->request('GET', '/models');
        self::assertSelectorTextContains('.empty', 'No model yet');
        self::assertSame([], self::get(Models::class)->standingOn([self::fieldId('sighting', 'individuals')]));

        self::db()->executeStatement('UPDATE analytic_model SET shared = 1 WHERE id = ?', [$kept->id()]);
        $this->client->request('GET', '/models/'.$kept->id());
        self::assertResponseIsSuccessful();
    }

    public function testRolesAndAttributesAreChangedOnTheirForms(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        $now = static fn (): Model => self::get(Models::class)->fresh(self::get(Models::class)->one($kept->id()) ?? $kept)->model();
        $form = fn (string $query): \Symfony\Component\DomCrawler\Form => $this->client->request('GET', "/models/{$kept->id()}/form?$query")
            ->selectButton('Save')->form();
        $role = current(array_filter($now()->roles, static fn (Role $one): bool => [] !== $one->attributes && 'fact' !== $one->kind->value));
        self::assertInstanceOf(Role::class, $role);
        $this->client->submit($form('part=role&role='.urlencode($role->name)), [
            'kind' => 'link', 'meaning' => 'what it is', 'grain' => 'one of it', 'key' => 'a, b,',
        ]);
        $changed = $now()->role($role->name) ?? self::fail('It is gone.');
        self::assertSame(['link', 'what it is', 'one of it', ['a', 'b'], $role->entry->name], [
            $changed->kind->value, $changed->meaning, $changed->grain, $changed->key, $changed->entry->name,
        ]);
        self::assertCount(\count($role->attributes), $changed->attributes);

        $attribute = $changed->attributes[0];
        $query = 'part=attribute&role='.urlencode($role->name).'&name='.urlencode($attribute->name);
        foreach (['' => 'An attribute needs a name', str_repeat('x', 161) => 'An attribute needs a name'] as $name => $words) {
            $this->client->submit($form($query), ['name' => $name]);
            $said = $this->client->getResponse()->isRedirection() ? $this->client->followRedirect()->text() : $this->content();
            self::assertStringContainsString($words, $said);
        }
        $this->client->submit($form($query), ['name' => str_repeat('x', 160)]);
        self::assertSame(str_repeat('x', 160), $now()->role($role->name)->attributes[0]->name);
    }

    public function testAJoinIsTakenOutAndARouteChosenOnThePage(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        $now = static fn (): Model => self::get(Models::class)->fresh(self::get(Models::class)->one($kept->id()) ?? $kept)->model();
        $join = $now()->joins[0];
        $send = function (string $what, array $given) use ($kept): void {
            $token = $this->client->request('GET', '/models/'.$kept->id())->filter('form.line input[name=_token]')->attr('value');
            $this->client->request('POST', "/models/{$kept->id()}/$what", $given + ['_token' => $token]);
            self::assertResponseRedirects();
        };
        $send('routes', ['from' => $join->from, 'to' => $join->to, 'by' => $join->key()."\r\n"]);
        self::assertEquals([new Choice($join->from, $join->to, [$join->key()])], $now()->choices);

        $send('joins', ['key' => $join->key(), 'name' => ' ']);
        self::assertCount(\count($kept->model()->joins), $now()->joins, 'A role of its own needs a name.');
        $send('joins', ['key' => $join->key(), 'remove' => '1', 'name' => 'x']);
        self::assertNotContains($join->key(), array_map(static fn ($one): string => $one->key(), $now()->joins));
    }

    public function testAMeasureIsChangedUnderItsNewNameAndWhatNamesItFollows(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        $trial = self::get(Models::class)->keepTrial($kept, 'How many', new Trial(['individuals seen'], ['catchment']), $account);
        $crawler = $this->client->request('GET', '/models/'.$kept->id().'/form?part=measure&name=individuals%20seen');
        $offered = $crawler->filter('select[name=aggregation] option')->each(static fn ($option): array => [
            $option->text(), null !== $option->attr('selected'), null !== $option->attr('data-of-measures'),
        ]);
        self::assertSame(['sum', true, false], $offered[0]);
        self::assertSame(['ratio', false, true], $offered[9]);
        $form = $crawler->selectButton('Save')->form(['name' => 'animals', 'unit' => 'animals']);
        $this->client->submit($form);
        $model = self::get(Models::class)->named('River life')?->model() ?? throw new \LogicException();

        self::assertSame('animals', $model->measure('animals')?->unit);
        self::assertSame('animals', $model->measure('individuals per sighting')?->of);
        self::assertSame(['animals'], self::get(Models::class)->trial($trial->id())?->trial()->measures);
        // The same form again: it was made from what is not there any more.
        $this->client->submit($form);
        $this->client->followRedirect();
        self::assertSelectorTextContains('.flash', 'has changed this meanwhile');
        $history = self::db()->fetchFirstColumn("SELECT property FROM change_event WHERE topic = 'model' AND topic_id = ?", [$kept->id()]);
        self::assertSame(['definition', 'definition'], $history);
        // Taken back, the model is as it was, and so is what it stands on.
        $last = self::scalar("SELECT MAX(id) FROM change_event WHERE topic = 'model' AND topic_id = ?", $kept->id());
        self::get(\Fasti\Text\Texts::class)->takeBack($account, $last);
        self::assertArrayHasKey("measure\0individuals seen", self::get(Models::class)->fieldsOf($kept->id()));
        $this->client->request('GET', '/models/'.$kept->id().'/history');
        self::assertSelectorTextContains('.history', 'Took in the measure animals');
    }

    public function testAnExpressionIsReadAsItIsTyped(): void
    {
        $kept = $this->river($this->signedIn());
        $says = function (string $role, string $text, string $aggregation = '') use ($kept): array {
            $this->client->request(
                'GET', '/models/'.$kept->id().'/formula?'.http_build_query(['role' => $role, 'text' => $text, 'aggregation' => $aggregation]),
            );

            return $this->answer();
        };

        self::assertSame('gives a number', $says('sighting', 'individuals * 2')['words']);
        self::assertSame('gives a number', $says('sighting', 'individuals * 2', 'sum')['words']);
        self::assertSame(['words' => 'gives a number', 'faults' => [], 'wrong' => false], $says('sighting', 'day.year'), 'nothing is added up');
        $header = $says('sighting', 'day.year', 'sum');
        self::assertTrue($header['wrong']);
        self::assertStringContainsString('It stands in day, and would count once for each row of sighting', (string) json_encode($header['faults']));
        self::assertFalse($says('sighting', 'day.year', 'greatest')['wrong']);
        self::assertStringContainsString('What stands in day is a factor', (string) json_encode($says('sighting', 'individuals * day.year', 'sum')));
        $wrong = $says('sighting', 'individuals + specis.protected');
        self::assertTrue($wrong['wrong']);
        self::assertSame(
            'The model has no role “specis”, at character 15 (“specis.protected”). Do you mean species?',
            \is_array($wrong['faults']) && \is_array($wrong['faults'][0] ?? null) ? $wrong['faults'][0]['words'] ?? '' : '',
        );
    }

    public function testATrialIsPlannedOnThePageAndAnsweredInAProcessOfItsOwn(): void
    {
        $kept = $this->river($this->signedIn());
        $base = '/models/'.$kept->id().'/trial';
        $asked = ['m' => ['individuals seen', 'mean water temperature'], 'b' => ['season of day'], 'w' => ['year of day is 2023']];
        $this->client->request('GET', $base.'?'.http_build_query($asked));
        self::assertSelectorTextContains('.sentence', 'individuals seen and mean water temperature');
        self::assertSelectorExists('[data-answerable]');
        $token = (string) $this->client->getCrawler()->filter('main')->attr('data-token');
        $this->client->request('POST', $base.'/answer', $asked + ['_token' => $token]);
        self::assertResponseIsSuccessful();
        $crawler = $this->client->getCrawler();

        self::assertSame(
            ['winter', 'spring', 'summer', 'autumn'],
            $crawler->filter('.answer-rows tbody tr td:first-child')->each(static fn ($cell): string => $cell->text()),
        );
        self::assertSame('All 4 rows', $crawler->filter('tfoot th')->text());
        self::assertSame(2, substr_count($this->content(), 'agrees.'));
        self::assertStringContainsString('<svg class="chart"', $this->content());
    }

    public function testWhatCannotBeAnsweredSaysWhyAndWhatCould(): void
    {
        $kept = $this->river($this->signedIn());
        $base = '/models/'.$kept->id().'/trial';
        $this->client->request('GET', $base.'?m[]=readings&m[]=sightings&b[]=species');
        self::assertSelectorTextContains('.refused', 'Reading day cannot be split by species');
        self::assertSelectorExists('.instead a');
        self::assertSelectorNotExists('[data-answerable]');
        $this->client->request('GET', $base.'?m[]=sightings&w[]=colour+is+red');
        self::assertSelectorTextContains('.answer.bad', 'The model has no attribute “colour”');
        $token = $this->token($base.'?m[]=individuals+seen&b[]=group');
        $this->client->request('POST', $base.'/answer', ['m' => ['individuals seen'], 'b' => ['group'], '_token' => $token]);
        self::assertSelectorTextContains('.refused', '1 key of species group stands more than once');
        self::assertSelectorTextContains('.refused', 'would be 4,328 in all; on sighting alone it is 3,844');
    }

    public function testAQuestionUnderWayCanBeCancelled(): void
    {
        $this->river($this->signedIn());
        $token = bin2hex(random_bytes(12));
        $asker = self::get(Asker::class);
        $asker->cancel($token);
        $kept = self::get(Models::class)->named('River life') ?? throw new \LogicException();

        $this->expectExceptionMessage('The question was cancelled.');
        $asker->ask(self::get(Grounds::class)->of($kept), $kept->connection(), new Trial(['sightings']), 'today', $token);
    }

    public function testPersonalValuesAreHiddenFromThoseWhoMayNotSeeThem(): void
    {
        $kept = $this->river($this->account());
        $ground = self::get(Grounds::class)->of($kept);
        $plan = (new Planner($ground, new \DateTimeImmutable()))->plan(new Trial(['sightings', 'species seen'], ['station', 'catchment']));
        $personal = ["main\0station\0station_name" => 'it names a person'];
        $hidden = array_filter(array_map(static fn ($column): bool => Grounds::isPersonal($ground, $column, $personal), $plan->columns));
        self::assertSame([0 => true], $hidden);
        $rows = self::get(Sources::class)->rows(self::get(Sources::class)->target($kept->source), 10) ?? throw new \LogicException();
        $view = AnswerView::of((new Asking($rows))->answer($plan), $hidden);

        self::assertSame([AnswerView::HIDDEN], array_values(array_unique(array_column($view->rows, 0))));
        self::assertNotContains(AnswerView::HIDDEN, array_column($view->rows, 1));
        self::assertSame('', $view->chart);
    }

    public function testProvingFindsWhatTheDataSaysAndAsksKeptTrialsAgain(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        $models = self::get(Models::class);
        $good = $models->keepTrial($kept, 'By catchment', new Trial(['individuals seen'], ['catchment']), $account);
        $bad = $models->keepTrial($kept, 'By group', new Trial(['individuals seen'], ['group']), $account);
        self::get(ModelJob::class)->look($kept, new SilentProgress());

        self::assertSame([KeptTrial::ANSWERED, KeptTrial::REFUSED], [$good->state, $bad->state]);
        self::assertStringContainsString('stands more than once', $bad->words);
        self::assertSame(['key-not-unique'], array_map(static fn ($one): string => $one->check, $kept->dataFindings()));
        self::assertNull($good->changed);
        $claims = [...self::get(ModelClaims::class)->of($account)];
        self::assertSame('River life: a fault in the data', $claims[0]->title);

        // One more sighting in the source: the answer is another one.
        $database = new \PDO('sqlite:'.self::$file);
        $database->exec('INSERT INTO sighting VALUES (999999, 1, NULL, 1, 1, 1000)');
        self::get(ModelJob::class)->look($kept, new SilentProgress());
        $database->exec('DELETE FROM sighting WHERE sighting_id = 999999');
        self::assertSame(['answer'], self::get(Models::class)->trial($good->id())->changed['what'] ?? null);
        $this->client->request('GET', '/models/'.$kept->id().'/trials');
        self::assertSelectorTextContains('.lead', '1 of 2');
        self::assertSelectorTextContains('.changed', 'answer');
        self::assertSelectorTextContains('.changed tbody', 'Upper Tinker');
        $this->client->submit($this->client->getCrawler()->selectButton('seen')->form(), ['seen' => '1']);
        self::assertNull($models->trial($good->id())?->changed);
    }

    /** To a copy in which one count is another, and a group is missing. */
    private function secondConnection(KeptModel $kept): Connection
    {
        copy(self::$file, $other = self::$file.'-test');
        (new \PDO('sqlite:'.$other))->exec("DELETE FROM species_group WHERE group_name = 'migrants';
            UPDATE sighting SET individuals = individuals + 1 WHERE sighting_id = 1");
        $connection = new Connection($kept->source);
        $connection->label = 'test';
        $connection->engine = 'sqlite';
        $connection->path = $other;
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($connection);
        $entities->flush();
        $entities->refresh($kept->source);

        return $connection;
    }

    public function testPointedAtAnotherConnectionItIsProvenThereAndTheDifferenceIsTold(): void
    {
        $kept = $this->river($this->signedIn());
        self::get(ModelJob::class)->look($kept, new SilentProgress());
        $connection = $this->secondConnection($kept);
        $owner = self::get(EntityManagerInterface::class)->find(Account::class, $kept->owner->id()) ?? throw new \LogicException();
        $models = self::get(Models::class);
        $now = static fn (): KeptModel => self::get(Models::class)->named('River life') ?? throw new \LogicException();
        $models->keepTrial($kept, 'Sightings', new Trial(['sightings']), $owner);
        $models->keepTrial($kept, 'How many kinds', new Trial(['individuals seen'], ['catchment']), $owner);
        $models->keepTrial($kept, 'By group', new Trial(['individuals seen'], ['group']), $owner);
        $page = '/models/'.$kept->id();
        $point = fn (): mixed => $this->client->submit(
            $this->client->request('GET', $page)->selectButton('Compare what kept trials say there')->form(),
            ['connection' => (string) $connection->id()],
        );
        $compare = function () use ($point): void {
            $point();
            self::work(self::scalar("SELECT MAX(id) FROM job WHERE kind = 'repoint'"));
            $this->client->followRedirect();
        };
        $compare();
        self::assertSelectorTextContains('.lead', '2 of 3 kept trials say something else through test than through live.');
        self::assertStringContainsString('Through live: 1 key of', $this->client->getCrawler()->filter('.kept-trials')->text());
        self::assertCount(1, $this->client->getCrawler()->filter('.kept-trials table tbody tr'));
        self::assertNull($now()->connection);

        self::get(Models::class)->keepTrial($now(), 'One more', new Trial(['sightings']), $owner);
        $this->client->request('GET', $page.'/repoint');
        self::assertStringContainsString('The model or a kept trial has been changed since.', $this->content());
        $switch = fn (): mixed => $this->client->request(
            'POST', $page.'/repoint/switch', ['_token' => $this->token($page.'/repoint'), 'connection' => $connection->id()],
        );
        $switch();
        $this->client->followRedirect();
        self::assertStringContainsString('Compare again first.', $this->content());
        self::assertNull($now()->connection);
        $compare();
        self::assertSame(['How many kinds', 'By group', 'Sightings', 'One more'], $this->client->getCrawler()->filter('.kept-trials h2')->each(
            static fn (Crawler $one): string => $one->text(),
        ));
        $switch();
        self::assertSame([$connection->id(), null], [$now()->connection()->id(), $now()->repointing]);
        $point();
        $this->client->followRedirect();
        self::assertStringContainsString('The model is pointed there already.', $this->content());
        self::work(self::scalar("SELECT MAX(id) FROM job WHERE kind = 'model'"));
        $this->client->request('GET', $page.'/checks');
        @unlink($connection->path);

        self::assertSelectorTextContains('.lead', 'through the connection test');
        self::assertStringContainsString('no more: One key of “species group” stands more than once', $this->content());
        self::assertStringContainsString('through the connection live', $this->content());
    }

    public function testRowsOfAnAnswerGoOutOnlyWhereAStewardSaysSo(): void
    {
        $account = $this->account();
        $kept = $this->river($account);
        $trial = self::get(Models::class)->keepTrial($kept, 'By catchment', new Trial(['individuals seen'], ['catchment']), $account);
        self::get(ModelJob::class)->look($kept, new SilentProgress());
        self::assertArrayNotHasKey('answer', TrialFile::of($trial, true));
        self::assertStringContainsString('GROUP BY', (string) json_encode(TrialFile::of($trial, true)['sql'] ?? ''));
        $trial->rowsPublished = true;

        self::assertArrayHasKey('answer', TrialFile::of($trial, true));
        self::assertArrayNotHasKey('answer', TrialFile::of($trial));
    }

    public function testNamesInTheSourceAreFollowedAndWhatBreaksIsSaid(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        $renaming = self::get(Renaming::class);
        $renaming->fields(self::entryId('species'), ['protected' => 'is_protected'], $account);
        $renaming->entry($kept->source->id(), new Place('main', 'species'), new Place('main', 'kind_of_animal'), $account);
        $model = self::get(Models::class)->fresh($kept)->model();
        self::assertSame('species.is_protected = 1', $model->measure('protected individuals')?->filter);
        self::assertSame('kind_of_animal', $model->role('species')?->entry->name);

        $field = self::fieldId('sighting', 'individuals');
        $uses = self::get(Models::class)->standingOn([$field])[$field];
        self::assertContains('individuals per sighting', array_column($uses, 'part'));
        $this->client->request('GET', "/register/fields/$field/lineage");
        self::assertSelectorTextContains('#breaks', 'measure individuals seen');
        $this->client->request('GET', '/register/'.self::entryId('sighting'));
        self::assertStringContainsString('River life', $this->content());
        self::db()->executeStatement('UPDATE field SET gone_at = UTC_TIMESTAMP() WHERE id = ?', [$field]);
        $this->client->request('GET', '/models/'.$kept->id().'/checks');
        self::assertSelectorTextContains('.findings', 'sighting has no field “individuals”');
        $this->client->request('GET', '/models/'.$kept->id().'/lineage');
        self::assertSelectorTextContains('.answer.bad', 'main.sighting.individuals');
    }

    public function testTheMatrixAndTheSearchKnowTheModel(): void
    {
        $kept = $this->river($this->signedIn());
        $this->client->request('GET', '/models/'.$kept->id().'/matrix');
        $cells = $this->client->getCrawler()->filter('.matrix tbody tr')->first()->filter('td');
        self::assertSame(['looked at first', 'yes'], \array_slice($cells->each(static fn ($cell): string => $cell->filter('summary')->text()), -2));
        self::assertStringContainsString('A row of species that has several of listing is counted in each.', $cells->last()->text());
        $this->client->request('GET', '/search?q=individuals');
        self::assertStringContainsString('Measure: individuals seen of River life', $this->content());
    }

    public function testAModelWithTheWorstOfNamesIsShown(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        $long = '<b>'.str_repeat('very long name ', 9).'"\'&';
        self::get(Editing::class)->change(
            $account,
            $kept,
            static fn ($model) => $model->with(measures: [...$model->measures, new Measure($long, new Sum(), 'sighting', 'individuals')]),
        );
        foreach (['', '/matrix', '/checks', '/trial?'.http_build_query(['m' => [$long], 'b' => ['catchment']]), '/trials', '/lineage'] as $page) {
            $this->client->request('GET', '/models/'.$kept->id().$page);
            self::assertResponseIsSuccessful($page);
            self::assertStringNotContainsString('<b>very', $this->content());
        }
    }

    public function testTheFileOfAModelIsWhatItsSchemaSays(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        self::get(Models::class)->keepTrial($kept, 'By catchment', new Trial(['individuals seen'], ['catchment']), $account);
        $this->client->request('GET', '/models/'.$kept->id().'.json');
        $schema = (string) file_get_contents(\dirname(__DIR__, 3).'/docs/model.schema.json');
        $valid = static fn (string $json): bool => (new Validator())->validate(json_decode($json), $schema)->isValid();

        self::assertTrue($valid($this->content()));
        self::assertTrue($valid((string) file_get_contents(\dirname(__DIR__, 3).'/demo/river-life.json')));
        self::assertFalse($valid(str_replace('"sum"', '"total"', $this->content())));
        self::assertEquals($kept->model(), ModelFile::read($this->content()));
    }

    private function command(string $name): CommandTester
    {
        return new CommandTester((new Application(self::$kernel ?? throw new \LogicException()))->find($name));
    }

    public function testAModelIsAskedAndCheckedOnTheCommandLine(): void
    {
        $kept = $this->river($this->account());
        $ask = $this->command('fasti:model:ask');
        self::assertSame(
            0,
            $ask->execute(
                [
                    'name' => 'River life',
                    '--measure' => ['individuals seen'],
                    '--by' => ['catchment'],
                    '--where' => ['year of day is 2023'],
                    '--order' => ['-individuals seen'],
                ],
            ),
        );
        self::assertStringStartsWith("catchment,individuals seen\n", $ask->getDisplay());
        self::assertSame(
            0,
            $ask->execute(
                ['--file' => \dirname(__DIR__, 3).'/demo/river-life.json', '--target' => self::$file, '--measure' => ['sightings'], '--format' => 'json'],
            ),
        );
        self::assertMatchesRegularExpression('/^\[\s*\{\s*"sightings": 1\d{3}\s*\}\s*\]$/', trim($ask->getDisplay()));
        self::assertSame(0, $ask->execute(['name' => 'River life', '--measure' => ['sightings'], '--format' => 'sql']));
        self::assertStringContainsString('COUNT(*) AS sightings', $ask->getDisplay());
        self::assertSame(1, $ask->execute(['name' => 'River life', '--measure' => ['individuals seen'], '--by' => ['group'], '--reconcile' => true]));
        self::assertStringContainsString('That is 1.13 times as much.', $ask->getDisplay());
        self::assertSame(1, $ask->execute(['name' => 'River life', '--measure' => ['readings'], '--by' => ['species']]));
        foreach (['0' => 'must be 1 or more', '-3' => '“-3” is no number of rows', 'ten' => '“ten” is no number of rows'] as $limit => $words) {
            self::assertSame(2, $ask->execute(['name' => 'River life', '--measure' => ['readings'], '--limit' => (string) $limit]));
            self::assertStringContainsString($words, $ask->getDisplay());
        }
        self::assertSame(2, $ask->execute(['name' => 'River lif', '--measure' => ['readings']]));
        self::assertStringContainsString('There is no model “River lif”. There are: River life.', $ask->getDisplay());
        self::assertSame(2, $ask->execute(['name' => 'River life', '--measure' => ['redings']]));
        self::assertStringContainsString('Do you mean readings', $ask->getDisplay());

        $check = $this->command('fasti:model:check');
        self::assertSame(1, $check->execute(['name' => 'River life']));
        self::assertStringContainsString('fault  key-not-unique: One key of “species group” stands more than once.', $check->getDisplay());
        self::assertNotNull(self::get(Models::class)->fresh($kept)->lookedAt);
        self::assertSame(1, $check->execute(['--file' => \dirname(__DIR__, 3).'/demo/river-life.json', '--target' => self::$file, '--format' => 'json']));
        self::assertStringContainsString('"check": "units-mixed"', $check->getDisplay());
    }
}
