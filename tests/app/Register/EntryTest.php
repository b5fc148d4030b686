<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Register;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Register\Entries;
use Fasti\Register\EntryView;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

/** The page of one entry, and what stands behind it. */
final class EntryTest extends AppTestCase
{
    private static function catalog(): Catalog
    {
        $parts = new Table(
            'main',
            'part',
            TableType::Table,
            '',
            [new Column('maker', 'int', false), new Column('number', 'int', false)],
            new Key(null, ['maker', 'number']),
        );
        $use = new Table('main', 'use', TableType::Table, 'Where parts went', [
            new Column('id', 'int', false),
            new Column('maker', 'int'),
            new Column('number', 'int'),
            new Column('replaces', 'int', comment: 'earlier use'),
        ], new Key(null, ['id']), [new Key('once', ['maker', 'number'])], [
            new ForeignKey('use_part', ['maker', 'number'], new Reference('main', 'part', ['maker', 'number']), 'CASCADE', 'SET NULL'),
            new ForeignKey('use_replaces', ['replaces'], new Reference('main', 'use', ['id'])),
        ], [], [new CheckConstraint('positive', '`number` > 0')], [new Trigger('logs', 'AFTER', 'DELETE', 'SET @x = 1')]);

        return new Catalog(
            'mariadb',
            '',
            [$parts, $use, new Table('main', 'used', TableType::View, '', [new Column('id', 'int')], definition: 'select `id` from `use`')],
        );
    }

    private function entry(string $name): EntryView
    {
        return self::get(Entries::class)->one(self::entryId($name)) ?? throw new \LogicException($name);
    }

    public function testJoinsFromBothSidesWithAllTheirFields(): void
    {
        self::apply($this->source(), self::catalog());
        $use = $this->entry('use');

        self::assertSame(
            ['A use refers to at most one part.', 'A use refers to at most one other use (replaces).'],
            array_values(array_map(static fn ($join): string => (string) $join->forth(), array_filter($use->joins, static fn ($join): bool => $join->out))),
        );
        self::assertSame([['maker', 'maker'], ['number', 'number']], $use->joins[0]->pairs);
        self::assertSame('maker, number', $use->joins[0]->columns());
        self::assertSame('deleted along with it; emptied when it is changed', $use->joins[0]->actions());
        self::assertSame('', $use->joins[1]->actions());
        self::assertCount(2, $use->joins, 'A join with itself stands once.');
        self::assertSame('A part is referred to by at most one use.', (string) $this->entry('part')->joins[0]->back());
        self::assertSame(['part'], array_column($use->fields[1]->leadsTo, 'name'));
    }

    public function testRulesInWords(): void
    {
        self::apply($this->source(), self::catalog());

        self::assertSame(
            [['unique', 'maker with number stands only once'], ['checked', '`number` > 0'], ['trigger', 'logs runs after each delete']],
            $this->entry('use')->rules(),
        );
        self::assertContains('unique', $this->entry('use')->fields[0]->words);
        self::assertNotContains('unique', $this->entry('part')->fields[0]->words, 'One field of a key of two is not unique by itself.');
    }

    public function testThePageOfATable(): void
    {
        self::apply($this->source(), self::catalog());
        $oona = $this->signedIn();
        self::get(Texts::class)->save(
            $oona,
            JoinTopic::NAME,
            self::scalar("SELECT id FROM entry_join WHERE JSON_CONTAINS(names, '\"use_part\"')"),
            'verb',
            '',
            'uses up',
            's',
        );
        $crawler = $this->client->request('GET', '/register/'.self::entryId('use'));

        self::assertSame(
            ['uses up', 'is referred to by', 'refers to', 'is referred to by'],
            $crawler->filter('.joins .verb')->each(static fn ($verb): string => $verb->text()),
        );
        self::assertSelectorTextContains('.joins', 'deleted along with it');
        self::assertSelectorTextContains('.top .says-db', 'Where parts went');
        self::assertSelectorTextContains('.m .says-db', 'earlier use');
        self::assertCount(1, $crawler->filter('.row.key'));
        self::assertSame((string) self::entryId('part'), basename((string) $crawler->filter('main')->attr('data-before')));
        self::assertSame((string) self::entryId('used'), basename((string) $crawler->filter('main')->attr('data-after')));
        self::assertSame(['part', 'use', 'used'], $crawler->filter('.index li a')->each(static fn ($link): string => $link->text()));
    }

    public function testThePageOfAView(): void
    {
        self::apply($this->source(), self::catalog());
        $this->signedIn();
        $this->client->request('GET', '/register/'.self::entryId('used'));

        self::assertSelectorTextContains('.crumb', 'view used');
        self::assertSelectorTextContains('.sql', 'select `id` from `use`');
        self::assertSelectorTextNotContains('.count', 'Rows');
    }

    public function testAnEntryThatIsGoneStaysReadableAndSaysSo(): void
    {
        $source = $this->source();
        self::apply($source, self::catalog());
        $id = self::entryId('used');
        self::apply($source, new Catalog('mariadb', '', \array_slice(self::catalog()->tables, 0, 2)));
        $this->signedIn();
        $this->client->request('GET', '/register/'.$id);
        self::assertSelectorTextContains('.answer', 'This view is gone from its source since');

        self::assertStringNotContainsString('>used<', (string) $this->client->request('GET', '/register')->html());
        self::assertStringContainsString('>used<', (string) $this->client->request('GET', '/register?described=gone')->html());
    }

    public function testTheIndexOfALargeSourceShowsThoseAroundTheEntry(): void
    {
        $tables = [];
        for ($i = 0; $i < 500; ++$i) {
            $tables[] = Made::table(\sprintf('t%03d', $i));
        }
        self::apply($this->source(), Made::catalog(...$tables));
        $this->signedIn();
        $crawler = $this->client->request('GET', '/register/'.self::entryId('t250'));
        $names = $crawler->filter('.index li a')->each(static fn ($link): string => $link->text());

        self::assertCount(200, $names);
        self::assertContains('t249', $names);
        self::assertContains('t251', $names);
        self::assertSelectorTextContains('.index .more', '200 of 500');
        $found = $this->client->request('GET', '/register/index/'.self::scalar('SELECT MAX(id) FROM source').'?q=T49')
            ->filter('li a')
            ->each(static fn ($link): string => $link->text());
        self::assertSame(['t490', 't491', 't492', 't493', 't494', 't495', 't496', 't497', 't498', 't499'], $found);
    }
}
