<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Text;

use Fasti\Register\Topic\EntryTopic;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\BadText;
use Fasti\Text\Editor;
use Fasti\Text\History;
use Fasti\Text\Properties;
use Fasti\Text\Property;
use Fasti\Text\SaidStore;
use Fasti\Text\Subject;
use Fasti\Text\Texts;
use Fasti\Text\Topic;
use Fasti\Text\Vocabulary;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Texts and history for anything: one class for a property, one for a kind of thing, made up here. */
final class AnythingTest extends AppTestCase
{
    private Texts $texts;

    protected function setUp(): void
    {
        parent::setUp();
        $vocabulary = new Vocabulary([self::rivers(), self::get(EntryTopic::class)], [self::properties()]);
        $said = self::get(SaidStore::class);
        $history = new History(self::db(), self::get(\Fasti\Account\AccountStore::class), $vocabulary);
        $this->texts = new Texts(self::db(), $vocabulary, $said, $history, self::get(EventDispatcherInterface::class));
    }

    private static function properties(): Properties
    {
        return new class implements Properties {
            public function all(): iterable
            {
                yield new Property('river', 'slogan', most: 20, check: static function (string $value): void {
                    if (str_contains($value, 'dry')) {
                        throw new BadText('A river is not dry.');
                    }
                });
                yield new Property('entry', 'depth', editor: Editor::Choice, choices: static fn (): array => ['' => 'not said', 'deep' => 'deep']);
            }
        };
    }

    private static function rivers(): Topic
    {
        return new class implements Topic {
            public function name(): string
            {
                return 'river';
            }

            public function locked(int $id): ?Subject
            {
                return 7 === $id ? new Subject('river', 7, 'river', 7) : null;
            }

            public function read(int $id, string $column): string
            {
                throw new \LogicException('All its texts are kept beside.');
            }

            public function write(Subject $subject, string $column, string $value): void
            {
                throw new \LogicException('All its texts are kept beside.');
            }

            public function touched(Subject $subject, Property $property): void
            {
            }

            public function names(array $ids): array
            {
                return [];
            }
        };
    }

    public function testAThingOfANewKindHasTextsAndAHistory(): void
    {
        $oona = $this->account();
        $saved = $this->texts->save($oona, 'river', 7, 'slogan', '', 'It flows', 'a');
        $this->texts->save($oona, 'river', 7, 'slogan', 'It flows', 'It flows on', 'b');

        self::assertSame('It flows on', self::get(SaidStore::class)->one('river', 7, 'slogan'));
        self::assertSame(2, self::scalar("SELECT COUNT(*) FROM change_event WHERE page = 'river' AND page_id = 7"));
        self::assertSame('', $this->texts->takeBack($oona, (int) $saved->change)->value);
        self::assertSame('', self::get(SaidStore::class)->one('river', 7, 'slogan'));
    }

    public function testTakingBackRunsTheSameChecksAsWriting(): void
    {
        $oona = $this->account();
        self::get(SaidStore::class)->write('river', 7, 'slogan', 'A dry text');
        $saved = $this->texts->save($oona, 'river', 7, 'slogan', 'A dry text', 'It flows', 'a');

        $this->expectExceptionMessage('A river is not dry.');
        $this->texts->takeBack($oona, (int) $saved->change);
    }

    public function testLengthsChoicesAndThingsThatAreNotThereAreChecked(): void
    {
        $oona = $this->account();
        self::apply($this->source(), Made::catalog(Made::table('station')));
        $entry = self::entryId('station');
        foreach ([
            ['river', 7, 'slogan', str_repeat('x', 21), '20 fit here'],
            ['river', 8, 'slogan', 'x', 'not in the register'],
            ['entry', $entry, 'depth', 'shallow', 'choose one of'],
            ['river', 7, 'depth', 'x', 'no text called'],
            ['lake', 7, 'slogan', 'x', ''],
        ] as [$topic, $id, $name, $value, $words]) {
            try {
                $this->texts->save($oona, $topic, $id, $name, '', $value, 'a');
                self::fail("$name of $topic was taken.");
            } catch (BadText $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
        self::assertTrue($this->texts->save($oona, 'entry', $entry, 'depth', '', 'deep', 'a')->saved);
    }
}
