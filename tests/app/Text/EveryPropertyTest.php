<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Text;

use Fasti\CodeList\CodeLists;
use Fasti\Term\Terms;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\BadText;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;
use Fasti\Text\SaidStore;
use Fasti\Text\Texts;
use Fasti\Text\Vocabulary;

/** Whatever is written in any text there is, it is kept as it is or refused in words; and no page breaks of it. */
final class EveryPropertyTest extends AppTestCase
{
    private const HOSTILE = ['<script>alert(1)</script>', "' OR 1=1 -- ; DROP TABLE entry", 'שלום \u{202E}abc', '{{ 7 * 7 }} ${x} %s %n',
        '"; matches (a+)+$', '2020-99-99', '-1', "\0\x07a"];

    public function testEachIsDeclaredOnceAndItsColumnIsThere(): void
    {
        $names = array_map(static fn (Property $property): string => $property->topic().' '.$property->name(), self::properties());

        self::assertSame($names, array_unique($names));
        self::assertGreaterThan(55, \count($names));
        foreach (self::properties() as $property) {
            self::assertContains(self::now($property, 999), ['', '{}'], $property->topic().' '.$property->name());
            self::assertNotSame('', $property->label());
            // Whose it is is chosen among accounts, of which there are none yet.
            self::assertSame(Editor::Choice === $property->editor() && 'owner' !== $property->name(), [] !== $property->choices(), $property->name());
        }
    }

    public function testWhatIsDeclaredOfOneIsAllThereIsToIt(): void
    {
        $bare = new Property('river', 'slogan');
        self::assertSame(['slogan', 15000, null, '', false, []], [
            $bare->label(), $bare->most(), $bare->column(), $bare->blank(), $bare->shownAmongFacts(), $bare->choices(),
        ]);
        self::assertSame('', $bare->inWords('a', 'b'));
        $bare->check('anything', 1);

        $told = new Property('river', 'slogan', inWords: static fn (string $a, string $b): string => "$a became $b");
        self::assertSame('a became b', $told->inWords('a', 'b'));
        $choice = new Property('river', 'kind', 'kind of it', editor: Editor::Choice, choices: ['' => 'not said', 'deep' => 'deep']);
        $choice->check('deep', 1);
        $this->expectExceptionMessage('For kind of it, choose one of: not said, deep.');
        $choice->check('wide', 1);
    }

    public function testHostileTextInEveryProperty(): void
    {
        self::apply($this->source(), Made::catalog(Made::table('station', ['name' => 'text']), Made::table('visit', ['station_id' => 'int'],
            ['station_id' => 'station'])));
        $account = $this->signedIn();
        $list = self::get(CodeLists::class)->make('flags', ['G' => 'good']);
        $term = self::get(Terms::class)->make('reach', '');
        $ids = [
            'entry' => self::entryId('station'), 'field' => self::fieldId('station', 'name'), 'join' => self::scalar('SELECT MAX(id) FROM entry_join'),
            'code-list' => $list,
            'code' => self::scalar('SELECT MAX(id) FROM code'), 'term' => $term,
        ];
        $texts = self::get(Texts::class);
        $kept = $refused = 0;
        foreach (self::properties() as $property) {
            $id = $ids[$property->topic()] ?? 0;
            foreach (0 === $id ? [] : [...self::HOSTILE, str_repeat('a word ', 150000)] as $value) {
                $now = self::now($property, $id);
                try {
                    $done = $texts->save($account, $property->topic(), $id, $property->name(), $now, $value, bin2hex(random_bytes(4)));
                    self::assertTrue($done->saved, $property->topic().' '.$property->name());
                    ++$kept;
                } catch (BadText $e) {
                    self::assertNotSame('', $e->getMessage());
                    ++$refused;
                }
                foreach (['/register/'.$ids['entry'], '/register/glossary/'.$term, '/register/code-lists/'.$list] as $path) {
                    if (self::HOSTILE[0] === $value) {
                        $this->client->request('GET', $path);
                        self::assertResponseIsSuccessful();
                        self::assertStringNotContainsString('<script>alert', $this->content(), $property->topic().' '.$property->name());
                    }
                }
            }
        }
        self::assertGreaterThan(100, $kept);
        self::assertGreaterThan(60, $refused);
    }

    private static function now(Property $property, int $id): string
    {
        $column = $property->column();

        return null === $column ? self::get(SaidStore::class)->one($property->topic(), $id, $property->name())
            : self::get(Vocabulary::class)->topic($property->topic())->read($id, $column);
    }

    /** @return list<Property> */
    private static function properties(): array
    {
        $all = (new \ReflectionProperty(Vocabulary::class, 'allProperties'))->getValue(self::get(Vocabulary::class));
        $found = [];
        foreach (is_iterable($all) ? $all : [] as $properties) {
            array_push($found, ...$properties instanceof Properties ? $properties->all() : []);
        }

        return $found;
    }
}
