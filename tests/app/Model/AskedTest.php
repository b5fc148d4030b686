<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Account\Role as Standing;
use Fasti\CodeList\CodeLists;
use Fasti\Core\Model\Aggregate\Computed;
use Fasti\Core\Model\Aggregate\Greatest;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\ConditionText;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Sorting;
use Fasti\Core\Model\Trial;
use Fasti\Core\Survey\SourceError;
use Fasti\Model\AnswerView;
use Fasti\Model\AskingNow;
use Fasti\Model\Grounds;
use Fasti\Model\KeptModel;
use Fasti\Model\KeptTrial;
use Fasti\Model\ModelPages;
use Fasti\Model\Models;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use Fasti\Text\Texts;
use Symfony\Component\DomCrawler\Crawler;

/** Who asks a model, what leaves with the answer, and what the owner says of it. */
final class AskedTest extends AppTestCase
{
    use RiverModel;

    public function testReadersAskASharedModelUnlessItsOwnerKeepsThemFromIt(): void
    {
        $kept = $this->river($this->account());
        $this->signedIn(Standing::READER, 'Ida Fell');
        $page = '/models/'.$kept->id().'/trial?m[]=sightings';
        $token = fn (): string => (string) $this->client->request('GET', $page)->filter('main')->attr('data-token');
        $ask = fn (string $format = ''): mixed => $this->client->request('POST', '/models/'.$kept->id().'/trial/answer', [
            'm' => ['sightings'], '_token' => $token(), 'format' => $format,
        ]);
        $token();
        self::assertSelectorExists('[data-ask]');
        $ask();
        self::assertResponseIsSuccessful();
        self::assertStringContainsString('1,109', $this->content());
        self::assertSame(['sightings' => 1], self::get(Models::class)->timesAsked($kept));

        $ask('json');
        $file = (array) json_decode($this->content(), true);
        self::assertSame(['Show sightings', 'River life', [['sightings' => 1109]]], [$file['question'] ?? '', $file['model'] ?? '', $file['rows'] ?? []]);
        self::assertStringContainsString('COUNT(*)', \is_string($file['sql'] ?? null) ? $file['sql'] : '');
        $ask('csv');
        self::assertStringContainsString("# question: Show sightings\r\n", $this->content());
        self::assertStringEndsWith("sightings\r\n1109\r\n", $this->content());

        $withheld = self::get(Models::class)->named('River life') ?? throw new \LogicException();
        $withheld->withheld = true;
        self::get(Models::class)->save();
        $this->client->request('GET', $page);
        self::assertStringContainsString('COUNT(*)', $this->content());
        self::assertSelectorNotExists('[data-ask]');
        self::assertSelectorTextContains('.may-not', 'Its owner keeps readers from asking it.');
        $ask();
        self::assertResponseStatusCodeSame(403);
        self::assertSame(['sightings' => 3], self::get(Models::class)->timesAsked($withheld));
    }

    public function testNobodyHasMoreThanTwoQuestionsUnderWay(): void
    {
        $now = self::get(AskingNow::class);
        $account = $this->account();
        $places = [$now->place($account), $now->place($account)];
        try {
            $now->place($account);
            self::fail('A third was begun.');
        } catch (SourceError $e) {
            self::assertSame('You have 2 questions under way already.', $e->getMessage());
        }
        self::assertCount(2, $now->place($this->account('steward', 'Another One')));
        array_map(fclose(...), $places[0]);
        self::assertCount(2, $now->place($account));
    }

    public function testWhatAQuestionLeavesOpenIsFilledIn(): void
    {
        $kept = $this->river($this->signedIn());
        $page = '/models/'.$kept->id().'/trial?'.http_build_query([
            'm' => ['sightings', 'share of sightings'], 'b' => ['catchment'], 'w' => ['year of day is {year}'],
        ]);
        $crawler = $this->client->request('GET', $page);
        self::assertSame('year', $crawler->filter('[data-parameter]')->attr('data-parameter'));
        self::assertSelectorTextContains('.answer.bad', 'Say what “year” is to be');
        $crawler = $this->client->request('GET', str_replace('%7Byear%7D', '%7Byear+%3D+2023%7D', $page));
        self::assertSame('2023', $crawler->filter('[data-parameter]')->attr('value'));
        self::assertSelectorTextContains('.sentence', 'year of day is 2023');
        self::assertSelectorExists('[data-answerable]');
        $beside = array_column((array) json_decode((string) $crawler->filter('[data-beside]')->attr('data-beside'), true), 'value');
        self::assertContains('sightings 1 year before by date of day', $beside);
        self::assertNotContains('share of sightings', $beside);
    }

    public function testAFaultIsAcceptedForATimeAndAModelWithFaultsIsSharedWithAReason(): void
    {
        $kept = $this->river($this->signedIn(), false);
        $page = '/models/'.$kept->id();
        $one = static fn (): KeptModel => self::get(Models::class)->named('River life') ?? throw new \LogicException();
        $share = function (array $more) use ($page): void {
            $this->client->request('POST', $page.'/settings', ['_token' => $this->token($page), 'shared' => '1'] + $more);
            $this->client->followRedirect();
        };
        $share([]);
        self::assertStringContainsString('A fault speaks against the model.', $this->content());
        self::assertFalse($one()->shared);
        $share(['why' => 'the report is due']);
        self::assertSame([true, 'the report is due'], [$one()->shared, $one()->sharedDespite]);
        self::assertStringContainsString('Shared all the same: the report is due · 1 fault against it', $this->content());

        $accept = function (array $more) use ($page): string {
            $key = (string) $this->client->request('GET', $page.'/checks')->filter('[name=finding]')->first()->attr('value');
            $this->client->request('POST', $page.'/accept', ['_token' => $this->token($page), 'finding' => $key] + $more);

            return $this->client->followRedirect()->filter('body')->text();
        };
        self::assertStringContainsString('Say why it is accepted', $accept(['why' => ' ']));
        self::assertStringContainsString('“soon” is no day', $accept(['why' => 'it is planted', 'until' => 'soon']));
        self::assertStringContainsString('That day has passed', $accept(['why' => 'it is planted', 'until' => '2020-01-31']));
        self::assertStringContainsString('it is planted', $accept(['why' => 'it is planted', 'until' => '2999-12-31']));
        self::assertCount(1, $one()->accepted);
        $this->client->request('GET', $page);
        self::assertStringContainsString('fit to be shared', $this->content());
        $share([]);
        self::assertSame('', $one()->sharedDespite);
        self::assertNull($one()->acceptance(self::get(ModelPages::class)->findings($one())[0], new \DateTimeImmutable('3000-01-01')));
        self::assertNotNull($one()->acceptance(self::get(ModelPages::class)->findings($one())[0], new \DateTimeImmutable()));
        $accept(['open' => '1', 'finding' => (string) array_key_first($one()->accepted)]);
    }

    public function testHowWhatBelongsToSeveralCountsIsSaidAndTakenBack(): void
    {
        $kept = $this->river($this->signedIn());
        $say = function (array $more) use ($kept): void {
            $this->client->request('POST', '/models/'.$kept->id().'/sharings', ['_token' => $this->token('/models/'.$kept->id())] + $more);
            $this->client->followRedirect();
        };
        $sharings = static fn (): array => array_map(
            static fn ($one): array => [$one->link, $one->of, $one->how->value],
            self::get(Models::class)->named('River life')?->model()->sharings ?? [],
        );
        $say(['join' => "listing\nspecies", 'how' => 'equal']);
        self::assertSame([['listing', 'species', 'equal']], $sharings());
        self::assertSelectorTextContains('#sharings', 'A row of species that has several of listing is shared in equal parts.');
        $say(['join' => "listing\nspecies", 'how' => 'weight']);
        self::assertStringContainsString('Say by which field of the link it is shared', $this->content());
        $say(['join' => "listing\nspecies", 'remove' => '1']);
        self::assertSame([], $sharings());
    }

    public function testWhatIsPersonalIsNeitherToldByAConditionNorByAnOrderNorBeside(): void
    {
        $kept = $this->river($this->account());
        $model = $kept->model();
        $model = $model->with(measures: [
            ...$model->measures, new Measure('latest animal', new Greatest(), 'sighting', 'individuals'),
            new Measure('told again', new Computed(), expression: 'COALESCE("latest animal", 0) + 0'),
            new Measure('how often by count', new Computed(), expression: 'sightings * 2'),
        ]);
        $ground = self::get(Grounds::class)->ofModel($model, $kept->source->id());
        $personal = ["main\0station\0station_name" => 'it names a person', "main\0sighting\0individuals" => 'somebody said so'];
        $told = static fn (Trial $trial): array => Grounds::toldBeside($ground, $trial, $personal);
        $where = static fn (string $text): array => [(new ConditionText($ground->names(), []))->read($text)];

        self::assertSame([], $told(new Trial(['sightings'], ['station'], $where('catchment is Arrow valley'))));
        self::assertSame(['station'], $told(new Trial(['sightings'], [], $where('station begins with A or catchment is given'))));
        self::assertSame(['station'], $told(new Trial(['sightings'], [], $where('reach has station (station is none)'))));
        self::assertSame(['told again'], $told(new Trial(['told again'], ['reach'], $where('told again is over 3'))));
        self::assertSame(['told again'], $told(new Trial(['told again'], ['reach'], order: [new Sorting('told again')])));
        self::assertSame([], $told(new Trial(['how often by count'], ['reach'], order: [new Sorting('how often by count')])));

        $plan = (new Planner($ground, new \DateTimeImmutable()))->plan(new Trial(['told again', 'sightings', 'how often by count'], ['reach']));
        $hidden = array_map(static fn ($column): bool => Grounds::isPersonal($ground, $column, $personal), $plan->columns);
        self::assertSame([false, true, false, false], $hidden);
        $rows = self::get(Sources::class)->rows(self::get(Sources::class)->target($kept->source), 10) ?? throw new \LogicException();
        $view = AnswerView::of((new Asking($rows))->answer($plan), array_filter($hidden));
        self::assertSame(['sightings', 'how often by count'], array_column($view->reconciled, 'measure'));
    }

    public function testAReaderLearnsNothingOfPersonalValuesByAsking(): void
    {
        $kept = $this->river($this->account());
        self::db()->executeStatement("UPDATE field SET personal = 'yes' WHERE name = 'station_name'");
        $this->signedIn(Standing::READER, 'Ida Fell');
        $page = '/models/'.$kept->id().'/trial';
        $ask = function (string ...$where) use ($page): void {
            $this->client->request('POST', $page.'/answer', [
                'm' => ['sightings'], 'b' => ['station'], 'w' => $where, '_token' => $this->token($page.'?m[]=sightings'),
            ]);
        };
        $ask();
        self::assertStringContainsString(AnswerView::HIDDEN, $this->content());
        $ask('station begins with A');
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('station is personal: whoever may not see personal values can neither ask under a condition', $this->content());
    }

    public function testCodesAreReadAndWrittenByTheirLabels(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        self::get(CodeLists::class)->make('our months', ['3' => 'March', '4' => 'April', '5' => '', '13' => 'no month']);
        self::get(Texts::class)->save(
            $account, FieldTopic::NAME, self::fieldId('day', 'month'), 'allowed', '', '1 to 13; code list our months', 'x',
        );
        $asked = ['m' => ['sightings'], 'b' => ['month of day'], 'w' => ['month of day is one of march, 4, 5']];
        $page = '/models/'.$kept->id().'/trial';
        $crawler = $this->client->request('GET', $page.'?'.http_build_query($asked));
        self::assertSelectorTextContains('.sentence', 'month of day is one of March – 3, April – 4, 5');
        $choices = (array) json_decode((string) $crawler->filter('main')->attr('data-choices'), true);
        $offered = array_column(\is_array($choices['attributes'] ?? null) ? $choices['attributes'] : [], 'codes', 'name');
        self::assertSame([['code' => '3', 'label' => 'March'], []], [((array) ($offered['month of day'] ?? []))[0] ?? null, $offered['year of day'] ?? null]);

        $ask = fn (string $format, array $more = []): mixed => $this->client->request(
            'POST', $page.'/answer', $more + $asked + ['_token' => $crawler->filter('main')->attr('data-token'), 'format' => $format],
        );
        $ask('');
        self::assertResponseIsSuccessful();
        self::assertSame('March 3', trim((string) preg_replace('/\s+/', ' ', $this->client->getCrawler()->filter('tbody td')->first()->text())));
        self::assertSame('5', $this->client->getCrawler()->filter('tbody tr')->last()->filter('td')->first()->text());
        $ask('csv');
        self::assertStringContainsString("\r\n\"month of day\",\"month of day label\",sightings\r\n3,March,", $this->content());
        $ask('json');
        $rows = (array) (((array) json_decode($this->content(), true))['rows'] ?? []);
        self::assertSame([3, 'March'], \array_slice(array_values((array) $rows[0]), 0, 2));
        self::assertNull(((array) $rows[2])['month of day label']);
        $ask('', ['w' => ['month of day is Marsh']]);
        self::assertStringContainsString('The nearest: March – 3.', $this->content());
    }

    public function testWhatAKeptTrialIsChangedToHasAWayBack(): void
    {
        $kept = $this->river($account = $this->signedIn());
        $page = '/models/'.$kept->id();
        $models = self::get(Models::class);
        $id = $models->keepTrial($kept, 'How many', new Trial(['sightings'], ['catchment']), $account)->id();
        $one = static fn (): KeptTrial => self::get(Models::class)->trial($id) ?? throw new \LogicException();
        $say = function (array $more) use ($page, $id): void {
            $this->client->request('POST', "$page/trials/$id", $more + [
                '_token' => $this->token($page.'/trials'), 'name' => 'How many were seen', 'neededBy' => 'Ida', 'expected' => '',
                'before' => ['name' => 'How many', 'neededBy' => '', 'expected' => '', 'rowsPublished' => '0'],
            ]);
            $this->client->followRedirect();
        };
        $say(['rowsPublished' => '1']);
        self::assertSame(['How many were seen', 'Ida', true], [$one()->name, $one()->neededBy, $one()->rowsPublished]);
        $say(['name' => 'Another']);
        self::assertStringContainsString('has changed the kept trial meanwhile', $this->content());
        self::assertSame('How many were seen', $one()->name);

        $asks = '?'.http_build_query(['m' => ['sightings'], 'b' => ['catchment'], 'of' => $id]);
        $this->client->request('GET', $page.'/trial'.$asks);
        self::assertSelectorTextContains('[name=change]', 'Change “How many were seen” to this question');
        $this->client->request('POST', $page.'/trials', ['_token' => $this->token($page.'/trials'), 'change' => $id, 'm' => ['sightings'], 'b' => ['reach']]);
        self::assertResponseRedirects($page.'/trials#t-'.$id);
        self::assertSame(['reach'], $one()->trial()->by);
        self::assertCount(1, self::get(Models::class)->trials($kept));
        $say(['remove' => '1']);
        self::assertSelectorNotExists('#t-'.$id);
        self::assertSame([], self::get(Models::class)->trials($kept));
        self::assertSame([], self::get(Models::class)->tallies());

        $history = $this->client->request('GET', $page.'/history');
        self::assertStringContainsString('Kept no more', $history->text());
        self::assertStringContainsString('Show sightings by reach; it was: Show sightings by catchment', $history->text());
        $back = fn (string $words) => $this->post('/texts/changes/'.$this->client->request('GET', $page.'/history')
            ->filter('.history tbody tr')->reduce(static fn (Crawler $row): bool => str_contains($row->text(), $words))->first()
            ->filter('[data-change]')->attr('data-change').'/take-back', [], $this->textsToken());
        $back('Kept no more');
        $back('Show sightings by reach; it was');
        $back('Its rows go into editions');
        self::assertSame([false, ['catchment'], false], [$one()->removed, $one()->trial()->by, $one()->rowsPublished]);
        self::assertSame('trial', self::db()->fetchOne("SELECT kind FROM model_field WHERE part = 'How many were seen' LIMIT 1"));
        $this->client->request('GET', $page.'/trials');
        self::assertSelectorTextContains('#t-'.$id, 'Show sightings by catchment');
    }
}
