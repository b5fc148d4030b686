<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Term;

use Fasti\Core\Term\Found;
use Fasti\Core\Term\Recogniser;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class EdgesTest extends TestCase
{
    private const TERMS = [
        1 => [
            'gauge',
            'gauging station',
        ], 2 => ['gauge board'], 3 => ['QA'], 4 => ['reach'], 5 => ['water level', 'level'], 6 => ['level'], 7 => ["owner's land"], 8 => ['', '…'],
        9 => ['species'], 10 => ['as is'], 11 => ['größe'],
    ];

    /** @param list<string> $found */
    #[TestWith(['A gauge stands there.', ['gauge=1']])]
    #[TestWith(['Gauges stand there.', ['Gauges=1']])]
    #[TestWith(['The gauge board is new.', ['gauge board=2']])]
    #[TestWith(['The gauge  board is new.', ['gauge  board=2']])]
    #[TestWith(["The gauge\nboard is new.", ["gauge\nboard=2"]])]
    #[TestWith(['The gauge, board and all.', ['gauge=1']])]
    #[TestWith(['The gauge. Board it.', ['gauge=1']])]
    #[TestWith(['The gauge-board.', []])]
    #[TestWith(['Gauging stations and gauges', ['Gauging stations=1', 'gauges=1']])]
    #[TestWith(['QA is due', ['QA=3']])]
    #[TestWith(['qa is due', []])]
    #[TestWith(['Qa is due', []])]
    #[TestWith(['the water level', ['water level=5']])]
    #[TestWith(['the level', ['level=5,6']])]
    #[TestWith(["the gauge's reach", ["gauge's=1", 'reach=4']])]
    #[TestWith(['the gauge’s reach', ['gauge’s=1', 'reach=4']])]
    #[TestWith(['reaches', ['reaches=4']])]
    #[TestWith(['species', ['species=9']])]
    #[TestWith(['as is', ['as is=10']])]
    #[TestWith(['Größe', ['Größe=11']])]
    #[TestWith(['', []])]
    #[TestWith(['gauge', ['gauge=1']])]
    #[TestWith(['gauge gauge board', ['gauge=1', 'gauge board=2']])]
    public function testTermsAreFoundWhereTheyStand(string $text, array $found): void
    {
        $said = array_map(
            static fn (Found $one): string => substr($text, $one->from, $one->length).'='.implode(',', $one->terms),
            (new Recogniser(self::TERMS))->in($text),
        );

        self::assertSame(array_values(array_filter($found, static fn (string $one): bool => !str_ends_with($one, '='))), $said);
    }

    public function testWithoutTermsNothingIsFound(): void
    {
        self::assertSame([], (new Recogniser([]))->in('A gauge.'));
        self::assertSame([], (new Recogniser([1 => ['!']]))->in('A gauge!'));
    }
}
