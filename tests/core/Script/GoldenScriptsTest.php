<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Script;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\TableDrift;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\DataProviderExternal;
use PHPUnit\Framework\TestCase;

/** Each trait of tests/scripts, read as a script and as a dump, against what its server said when that was recorded: no server is asked. */
final class GoldenScriptsTest extends TestCase
{
    #[DataProviderExternal(Traits::class, 'recorded')]
    public function testAScriptIsReadAsItsServerCarriedItOut(string $engine, string $sql): void
    {
        $name = (string) $this->dataName();
        $case = Golden::of("scripts.$engine")->case($name) ?? self::fail();
        self::assertSame($case['of'], $sql, 'The script has changed since. Record it again: bin/test record.');
        $live = Traits::live($engine, $name);

        self::assertSame([], Compared::catalogs($live, Traits::script($sql, $engine, Traits::SCHEMAS[$engine])));
        if ('' !== $case['text']) {
            self::assertSame([], Compared::catalogs($live, Traits::script($case['text'], $engine, Traits::SCHEMAS[$engine])), $case['text']);
        }
        $drift = array_filter(
            Compare::catalogs($live, Traits::script($sql, $engine, Traits::SCHEMAS[$engine])),
            static fn (TableDrift $item): bool => [] !== $item->words || [] !== $item->columns,
        );
        self::assertSame([], array_map(static fn (TableDrift $item): array => $item->toArray(), array_values($drift)));
    }

    /** The whole of what a reader makes of a server's answers, property by property, is what it was. */
    #[DataProviderExternal(Traits::class, 'recorded')]
    public function testAServersAnswersAreReadAsBefore(string $engine, string $sql): void
    {
        $case = Golden::of("scripts.$engine")->case((string) $this->dataName()) ?? self::fail();

        self::assertSame($case['more']['catalog'] ?? null, json_decode(json_encode(
            OpenForm::of(Traits::live($engine, (string) $this->dataName())),
            \JSON_THROW_ON_ERROR,
        ), true));
    }

    #[DataProvider('engines')]
    public function testWhereNothingIsChosenNothingMoreIsAsked(string $engine): void
    {
        $golden = Golden::of("scripts.$engine");
        $case = $golden->case($golden->names()[0]) ?? self::fail();
        $rows = new Replayed($case['answers']);
        $reader = Dialects::of($engine)->reader($rows, '') ?? self::fail();
        $inventory = $reader->inventory();

        $none = $reader->read(new Choice(['there is none of that name']), new SilentProgress());
        self::assertSame([[], []], [$none->tables, $none->routines]);
        $said = 'sqlite' === $engine ? 'Nothing matches the choice, or the database is empty.' : 'Nothing matches the choice, so nothing was read.';
        self::assertContains($said, $none->notes);
        self::assertNotSame([], $inventory->schemas);
        self::assertSame($inventory->server, $none->server);
    }

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        foreach (Traits::ENGINES as $engine) {
            yield $engine => [$engine];
        }
    }

    public function testEveryTraitIsRecorded(): void
    {
        $all = array_keys(iterator_to_array(Traits::all()));

        self::assertSame([], array_values(array_diff($all, array_keys(iterator_to_array(Traits::recorded())))), 'Record them: bin/test record.');
        foreach (Traits::ENGINES as $engine) {
            self::assertSame([], array_values(array_diff(Golden::of("scripts.$engine")->names(), $all)), 'They are gone. Record again: bin/test record.');
        }
    }

    public function testWhatWasNotAskedIsNotAnswered(): void
    {
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage('SELECT 2');
        iterator_to_array((new Replayed([['SELECT 1', [], ['a'], [['1']]]]))->rows('SELECT 2'));
    }
}
