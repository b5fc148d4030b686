<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Register;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Stopped;
use Fasti\Register\ApplyCatalog;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

/** What a survey does to the register, and what it leaves alone. */
final class ApplyCatalogTest extends AppTestCase
{
    private static function first(): Catalog
    {
        return Made::catalog(
            Made::table('station', ['code' => 'char(6)', 'opened' => 'date?']),
            Made::table('reading', ['station_id' => 'int', 'value' => 'decimal(6,2)?'], ['station_id' => 'station']),
            Made::everything(),
        );
    }

    /** @return list<array<string, mixed>> */
    private static function stored(): array
    {
        return [
            ...self::db()->fetchAllAssociative('SELECT * FROM entry ORDER BY id'),
            ...self::db()->fetchAllAssociative('SELECT * FROM field ORDER BY id'),
            ...self::db()->fetchAllAssociative('SELECT * FROM entry_join ORDER BY id'),
        ];
    }

    public function testAReferenceToATableThatIsNotThereIsKept(): void
    {
        $gone = new ForeignKey(null, ['station_id'], new Reference('main', 'gone', ['']));
        $catalog = Made::catalog(Made::table('reading', ['id' => 'int', 'station_id' => 'int?'])->with(foreignKeys: [$gone]));
        $source = $this->source();

        self::assertSame(1, self::apply($source, $catalog)['new']);
        self::assertSame(1, self::apply($source, $catalog)['same'], 'read again, it is the same');
        self::assertStringContainsString('gone', (string) json_encode(self::db()->fetchOne("SELECT facts FROM entry WHERE name = 'reading'")));
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry_join'), 'nothing is joined to what is not there');
    }

    public function testTheSameAgainWritesNothing(): void
    {
        $source = $this->source();
        self::assertSame(['new' => 3, 'changed' => 0, 'gone' => 0, 'back' => 0, 'same' => 0], self::apply($source, self::first()));
        $before = self::stored();
        $written = self::written();
        self::assertSame(['new' => 0, 'changed' => 0, 'gone' => 0, 'back' => 0, 'same' => 3], self::apply($source, self::first()));
        self::assertSame($before, self::stored());
        self::assertSame($written, self::written());
    }

    /** Rows written, changed or deleted in this session so far, by the server's own count. */
    private static function written(): int
    {
        return self::scalar(
            "SELECT SUM(VARIABLE_VALUE) FROM information_schema.SESSION_STATUS WHERE VARIABLE_NAME IN ('HANDLER_UPDATE', 'HANDLER_DELETE', "
                ."'INNODB_ROWS_INSERTED', 'COM_INSERT')",
        );
    }

    public function testTextSurvivesAChangeOfTypeAFieldThatGoesAndOneThatComesBack(): void
    {
        $source = $this->source();
        self::apply($source, self::first());
        $oona = $this->account();
        $texts = self::get(Texts::class);
        $texts->save($oona, FieldTopic::NAME, self::fieldId('station', 'code'), 'meaning', '', 'Painted on the box', 's');
        $texts->save($oona, EntryTopic::NAME, self::entryId('station'), 'meaning', '', 'A place', 's');

        $wider = Made::catalog(Made::table('station', ['code' => 'char(9)', 'closed' => 'date?']), self::first()->tables[1], self::first()->tables[2]);
        self::assertSame(1, self::apply($source, $wider)['changed']);
        self::assertSame('Painted on the box', self::db()->fetchOne('SELECT meaning FROM field WHERE id = ?', [self::fieldId('station', 'code')]));
        self::assertStringContainsString(
            'char(9)',
            (string) json_encode(self::db()->fetchOne('SELECT facts FROM field WHERE id = ?', [self::fieldId('station', 'code')])),
        );
        self::assertSame(1, self::scalar("SELECT gone_at IS NOT NULL FROM field WHERE name = 'opened'"));
        self::assertSame(3, self::scalar("SELECT field_count FROM entry WHERE name = 'station'"));

        $id = self::entryId('station');
        $without = new Catalog('mariadb', '', [self::first()->tables[2]]);
        self::assertSame(2, self::apply($source, $without)['gone']);
        self::assertSame(1, self::scalar('SELECT gone_at IS NOT NULL FROM entry WHERE id = ?', $id));
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry_join WHERE gone_at IS NULL AND from_entry_id = ?', self::entryId('reading')));

        self::assertSame(2, self::apply($source, self::first())['back']);
        self::assertSame($id, self::entryId('station'), 'It is the same entry.');
        self::assertSame('A place', self::db()->fetchOne('SELECT meaning FROM entry WHERE id = ?', [$id]));
        self::assertSame(0, self::scalar("SELECT gone_at IS NOT NULL FROM field WHERE name = 'opened'"));
        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM entry_join WHERE gone_at IS NULL AND from_entry_id = ?', self::entryId('reading')));
    }

    public function testWhatTheChoiceNoLongerCoversIsLeftAsItWas(): void
    {
        $source = $this->source();
        self::apply($source, self::first());
        $narrow = new Catalog('mariadb', '', [self::first()->tables[0]]);

        self::assertSame(0, self::apply($source, $narrow, new Choice([], ['station']))['gone']);
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry WHERE gone_at IS NOT NULL'));
    }

    public function testAWorkerThatDiesInTheMiddleLeavesTheRegisterAsItWas(): void
    {
        $source = $this->source();
        self::apply($source, self::first());
        $before = self::stored();
        $dies = new class implements Progress {
            public function at(string $what, int $done, int $total): void
            {
                if ($done > 0) {
                    throw new Stopped();
                }
            }
        };
        $changed = Made::catalog(Made::table('station', ['code' => 'int']), Made::table('brand_new'), self::first()->tables[2]);
        try {
            self::db()->transactional(static fn () => self::get(ApplyCatalog::class)->apply($source->id(), $changed, new Choice(), $dies));
            self::fail('It went through.');
        } catch (Stopped) {
            self::assertSame($before, self::stored());
        }
    }

    public function testNamesThatDifferOnlyInCaseOrAccentAreDifferentEntries(): void
    {
        $source = $this->source();
        self::apply($source, Made::catalog(Made::table('order'), Made::table('Order'), Made::table('örder'), Made::table('order ')));

        self::assertSame(4, self::scalar('SELECT COUNT(*) FROM entry WHERE source_id = ?', $source->id()));
    }

    public function testSmallMovesOfAnEstimateAreNotWorthAWrite(): void
    {
        $source = $this->source();
        $with = static fn (int $rows): Catalog => Made::catalog(OpenForm::read(
            Table::class,
            ['schema' => 'main', 'name' => 't', 'rowEstimate' => $rows, 'columns' => [['name' => 'id', 'type' => 'int']]],
        ));
        self::apply($source, $with(1000));
        self::apply($source, $with(1100));
        self::assertSame(1000, self::scalar("SELECT row_estimate FROM entry WHERE name = 't'"));
        self::apply($source, $with(2000));
        self::assertSame(2000, self::scalar("SELECT row_estimate FROM entry WHERE name = 't'"));
    }
}
