<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Account\Role as Standing;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\Role;
use Fasti\Model\Editing;
use Fasti\Model\KeptModel;
use Fasti\Tests\App\AppTestCase;
use Symfony\Component\DomCrawler\Crawler;

/** What stands on the page of a model, and where. */
final class PagesTest extends AppTestCase
{
    use RiverModel;

    private function page(KeptModel $kept): Crawler
    {
        $page = $this->client->request('GET', '/models/'.$kept->id());
        self::assertResponseIsSuccessful();

        return $page;
    }

    /** @return list<string> */
    private static function texts(Crawler $page, string $selector): array
    {
        return array_values($page->filter($selector)->each(static fn (Crawler $each): string => trim((string) preg_replace('/\s+/', ' ', $each->text()))));
    }

    public function testEachRoleStandsWithWhatItHas(): void
    {
        $page = $this->page($this->river($this->signedIn()));

        self::assertSame(['Facts', 'Dimensions'], \array_slice(self::texts($page, '.model-index .label'), 0, 2));
        self::assertSame(
            ['sighting', 'reading day', 'store', 'day', 'day confirmed', 'station', 'reach', 'catchment', 'parameter', 'species', 'species group',
                'listing', 'Hierarchies', 'Joins'],
            self::texts($page, '.model-index li'),
        );
        // Of a dimension that has several roles, what it holds stands once.
        self::assertSame(
            ['sighting fact', 'reading day fact', 'store fact', 'day dimension', 'station dimension', 'reach dimension', 'catchment dimension',
                'parameter dimension', 'species dimension', 'species group dimension', 'listing link', 'Computed of measures',
                'Hierarchies', 'What belongs to several', 'Joins'],
            self::texts($page, '.role h2'),
        );
        self::assertSame(['Also as day confirmed: the day on which a sighting was confirmed; none until then.'], self::texts($page, '.also-as'));
        self::assertSame(
            ['individuals seen', 'sightings', 'species seen', 'protected individuals', 'protection by sighting'],
            self::texts($page, '#r-sighting .measures .name'),
        );
        self::assertSame(['individuals per sighting', 'mean water temperature, °C'], self::texts($page->filter('.role')->eq(11), '.measures .name'));
        self::assertSame(
            ['station code station → reach reach → catchment catchment take it out', 'date day → month day → season day take it out'],
            self::texts($page, '.hierarchy'),
        );
        self::assertSame(['day', 'station', 'reach', 'catchment', 'parameter', 'species', 'species group'], self::texts($page, '.find-hierarchies button'));
        self::assertSame(['no key keeps it from standing twice; looked at before each answer'], self::texts($page, '.model-joins .under'));
    }

    public function testWhatWasNoticedStandsWhereItBelongs(): void
    {
        $account = $this->signedIn();
        $kept = $this->river($account);
        self::get(Editing::class)->change($account, $kept, static fn (Model $model): Model => $model->with(
            roles: array_map(static fn (Role $role): Role => 'sighting' !== $role->name ? $role
                : new Role($role->name, $role->kind, $role->entry, key: $role->key, attributes: $role->attributes), $model->roles),
            measures: [new Measure('broken', new Sum(), 'store', 'no_such_field')],
        ));
        $page = $this->page($kept);

        self::assertStringContainsString('It is not said what one row of “sighting” stands for', $page->filter('#r-sighting > .note')->text());
        self::assertStringContainsString('Fault', $page->filter('#m-broken .note.rubric')->text());
        self::assertCount(0, $page->filter('#r-store > .note'));
        // A field of which nothing is made any more is offered again.
        self::assertContains('Individuals', self::texts($page, '#r-sighting .field-offers b'));
        self::assertStringContainsString('not in the model', $page->filter('#r-sighting .take > summary')->text());
    }

    public function testWhoMayNotChangeItIsOfferedNothing(): void
    {
        $kept = $this->river($this->signedIn());
        $this->client->loginUser($this->account(Standing::READER, 'Oke Reader'));
        $page = $this->page($kept);

        self::assertCount(11, $page->filter('.offers > .role > .role-head .kind'));
        self::assertCount(0, $page->filter('.field-offers, .find-hierarchies, details[data-form], .about-model, .model-joins form'));
    }
}
