<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Source;

use Fasti\Source\Connector\Fault;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What an engine says is told by its kind, and never in its own words. */
final class FaultTest extends TestCase
{
    private const KINDS = [
        'A value could not be computed' => [['22P02', '22012'], [1264, 1265, 1292, 1365, 1366, 1411, 1690, 1105, 1918, 3140, 4038]],
        'Rows break a rule' => [['23505'], [1062, 1048, 1216, 1217, 1451, 1452, 4025, 19]],
        'The engine did not understand' => [['42601', '42P01'], [1, 1054, 1064, 1146, 1305, 1630]],
        'The engine has not enough room' => [['53200', '54000'], [1021, 1037, 1038, 1041, 7, 13]],
        'Others hold what was asked for' => [['40001', '55P03'], [1205, 1213, 5, 6]],
        'The session only reads' => [['25006'], [1792, 8]],
        'The engine cannot do that' => [['0A000'], []],
    ];

    /** @return iterable<string, array{string, int, non-empty-string, string}> state, number, how the kind begins, what stands for the number */
    public static function kinds(): iterable
    {
        foreach (self::KINDS as $begins => [$states, $codes]) {
            foreach ($states as $state) {
                yield $state => [$state, 0, $begins, $state];
            }
            foreach ($codes as $code) {
                yield "number $code" => ['', $code, $begins, (string) $code];
                yield "number $code, in general" => ['HY000', $code, $begins, (string) $code];
            }
        }
    }

    /** @param non-empty-string $begins */
    #[DataProvider('kinds')]
    public function testAKindIsToldWithItsNumber(string $state, int $code, string $begins, string $number): void
    {
        [$what, $todo] = (new Fault($state, $code, 'secret words'))->kind();

        self::assertStringStartsWith($begins, $what);
        self::assertStringContainsString("(error $number)", $what);
        self::assertStringNotContainsString('secret', $what.$todo);
    }

    public function testOtherNumbersAreOfNoKind(): void
    {
        $known = array_merge(...array_map(static fn (array $of): array => $of[1], array_values(self::KINDS)));
        foreach ($known as $code) {
            foreach (array_diff([$code - 1, $code + 1], $known) as $beside) {
                self::assertSame("The engine answered with an error ($beside).", (new Fault('', $beside, ''))->kind()[0]);
            }
            // Where the engine says a class, the number tells nothing.
            self::assertSame('The engine answered with an error (99000).', (new Fault('99000', $code, ''))->kind()[0]);
        }
    }

    public function testItsWordsAreFoundAllTogether(): void
    {
        $fault = new Fault('', 1, 'role "oona" does not exist');

        self::assertTrue($fault->says('role', 'does not exist'));
        self::assertFalse($fault->says('role', 'may not enter'));
    }

    #[TestWith(["duplicate key\nDETAIL: Key (mail)=(oona@arrowmere.example)", '23505 7 duplicate key'])]
    #[TestWith(['no such column: "mail"', '23505 7 no such column: “…”'])]
    #[TestWith(['Key =(oona) is there 4711 times, 12 of them', '23505 7 Key =(…) is there … times, 12 of them'])]
    #[TestWith(['syntax at LINE 1: SELECT secret', '23505 7 syntax at'])]
    public function testInALogValuesAreCutOut(string $said, string $kept): void
    {
        self::assertSame($kept, (new Fault('23505', 7, $said))->masked());
    }

    public function testALogGetsThreeHundredSigns(): void
    {
        self::assertSame(300, mb_strlen((new Fault('23505', 7, str_repeat('a ', 400)))->masked()) + 1);
    }
}
