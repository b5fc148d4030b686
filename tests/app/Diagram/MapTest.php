<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Diagram;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Diagram\Automatic;
use Fasti\Diagram\Look;
use Fasti\Diagram\RegisterDiagram;
use Fasti\Diagram\Scope;
use Fasti\Register\EntryStore;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

/** Large schemas, and pictures that stay as they were. */
final class MapTest extends AppTestCase
{
    /** @return list<Table> in families of ten that are joined among themselves */
    private static function tables(int $count, int ...$without): array
    {
        $tables = [];
        for ($i = 0; $i < $count; ++$i) {
            $to = $i - 1 - ($i * 7) % max(1, min(5, $i));
            $refers = 0 === $i % 10 || \in_array($to, $without, true) ? [] : ['up_id' => 't'.max(10 * intdiv($i, 10), $to)];
            $refers = array_filter($refers, static fn (string $name): bool => !\in_array((int) substr($name, 1), $without, true));
            $tables[$i] = Made::table('t'.$i, ['up_id' => 'int', 'note_'.$i => 'text?'], $refers);
        }

        return array_values(array_diff_key($tables, array_flip($without)));
    }

    public function testASourceOfManyTablesOpensAsAMap(): void
    {
        $source = $this->source('large');
        self::apply($source, Made::catalog(...self::tables(Automatic::MAP_FROM + 20)));
        $oona = $this->signedIn();
        foreach (['t1', 't2', 't3'] as $name) {
            self::get(Texts::class)->save($oona, EntryTopic::NAME, self::entryId($name), 'area', '', 'Named <here>', 's');
        }
        $this->client->request('GET', '/diagrams/sources/'.$source->id());
        self::assertResponseRedirects('/diagrams/map/'.$source->id());
        $page = $this->client->followRedirect();
        /** @var array{tablets: array<int, array{int, float, float, float, float, string}>, regions: list<array{name: string, proposed: bool}>} $state */
        $state = json_decode($page->filter('[data-state]')->text(), true);

        self::assertCount(Automatic::MAP_FROM + 20, $state['tablets']);
        self::assertContains('Named <here>', array_column($state['regions'], 'name'));
        self::assertContains(true, array_column($state['regions'], 'proposed'), 'Where nobody has made areas, those that the joins suggest.');
        self::assertStringContainsString('Named <here>, 3 entries', $page->filter('section.visually-hidden')->text());

        $places = array_map(
            static fn (array $tablet): array => \array_slice($tablet, 1, 4),
            array_filter($state['tablets'], static fn (array $tablet): bool => 1 === $tablet[0]),
        );
        $this->client->request('POST', '/diagrams/map/region', [], [], [], (string) json_encode($places));
        self::assertResponseIsSuccessful();
        self::assertSame(\count($places), substr_count($this->content(), 'class="tablet"'));
        self::assertTrue((new \DOMDocument())->loadXML('<svg xmlns="http://www.w3.org/2000/svg">'.$this->content().'</svg>'));
        $this->client->request('POST', '/diagrams/map/region', [], [], [], '[]');
        self::assertResponseStatusCodeSame(422);
        self::assertCount(Automatic::MAP_FROM + 20, $this->client->request('GET', '/diagrams/sources/'.$source->id().'?detail=names')->filter('svg .tablet'));
    }

    public function testAnEmptySourceHasAnEmptyMap(): void
    {
        $this->signedIn();
        $this->client->request('GET', '/diagrams/map/'.$this->source('empty')->id());
        self::assertResponseIsSuccessful();
    }

    public function testASmallChangeLeavesThePictureAsItWas(): void
    {
        $source = $this->source('hundred');
        self::apply($source, Made::catalog(...self::tables(100)));
        $before = $this->drawn($source->id());
        self::apply($source, Made::catalog(...self::tables(101)));
        $this->stays($before, $this->drawn($source->id()), 101);
        $added = $this->drawn($source->id());
        self::apply($source, Made::catalog(...self::tables(101, 44)));
        $this->stays($added, $this->drawn($source->id()), 100);
        self::assertEquals($this->drawn($source->id())->places(), $this->drawn($source->id())->places(), 'And so it stays.');
        self::apply($source, Made::catalog(...self::tables(160)));
        self::assertCount(160, $this->drawn($source->id())->shapes, 'After a large change it is laid out anew.');
    }

    private function drawn(int $source): Layout
    {
        $look = new Look(Detail::Keys, static fn (int $id): string => '');

        return self::get(RegisterDiagram::class)->layout(Scope::source($source), self::get(EntryStore::class)->ids($source), $look);
    }

    private function stays(Layout $before, Layout $after, int $count): void
    {
        self::assertCount($count, $after->shapes);
        $heights = [];
        foreach ($before->shapes as $shape) {
            $heights[$shape->tablet->id] = $shape->height;
        }
        $was = $before->places();
        $is = $after->places();
        $both = array_intersect_key($was, $is);
        $far = array_filter(array_keys($both), static fn (int $id): bool => hypot($is[$id][0] - $was[$id][0], $is[$id][1] - $was[$id][1]) >= $heights[$id]);
        self::assertLessThanOrEqual(5, \count($far));
        self::assertSame(self::order($both), self::order(array_intersect_key($is, $both)), 'The order in columns stays.');
    }

    /**
     * @param array<int, array{float, float}> $places
     *
     * @return list<int>
     */
    private static function order(array $places): array
    {
        uasort($places, static fn (array $a, array $b): int => $a <=> $b);

        return array_keys($places);
    }
}
