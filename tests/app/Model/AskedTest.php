<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Account\Role as Standing;
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
use Fasti\Model\ModelPages;
use Fasti\Model\Models;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;

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
}
