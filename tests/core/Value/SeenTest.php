<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Value;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Value\Allowed;
use Fasti\Core\Value\AllowedError;
use Fasti\Core\Value\Iso;
use Fasti\Core\Value\Lists;
use Fasti\Core\Value\Pasted;
use Fasti\Tests\Core\Golden\Snapshot;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What is allowed in fields: what each phrase lets in and keeps out, in words and in the SQL of each engine, and what is said of phrases that are wrong. */
final class SeenTest extends TestCase
{
    private const PHRASES = [
        '0 to 100', 'above 0 to 100', '0 to below 100', 'at least 5', 'at most 5', 'above 5', 'below 5', 'from 5', 'up to 5', '-5.5 to -1', '100 to 0',
        '5 to 5', '2024-01-01 to 2024-12-31',
        'from 2024-01-01', 'until 2024-12-31', 'at least 2024-01-01 10:00', 'one of G, S, B', 'one of "a, b", \'c\'', 'one of', 'G, S or B', 'code list flags',
        'code list “no such”', 'code list',
        '6 characters', '2 to 6 characters', 'at least 2 characters', 'at most 6 characters', 'up to 6 letters', '1 character', '6 to 2 characters',
        'capital letters', 'small letters', 'digits',
        'whole numbers', 'matches [A-Z]{3}', 'matches ^[A-Z]{3}-\d+$', 'matches (a+)+', 'matches [', 'matches a{1,20}b*', 'matches', 'at least 0; at most 9',
        'one of A, B; 1 character', ';',
        '', 'anything', 'not empty', 'e-mail address', 'UUID', '0 to 100 and 5', 'matches \d{4}-\d{2}', 'one of G, G',
    ];
    private const VALUES = ['0', '5', '5.5', '100', '-1', '-5.5', '', ' ', 'G', 'g', 'B', 'a, b', 'ABC', 'abc', 'ABC-1', '2024-01-01', '2024-06-15 10:00:00',
        '2025-01-01', 'aaaaaa', 'aaaaaaa', 'é', '007',
        '1e3', 'x'];

    public function testWhatEachPhraseLetsIn(): void
    {
        $lines = [];
        foreach (self::PHRASES as $phrase) {
            try {
                $allowed = Allowed::parse($phrase, self::codes(...));
                $lines[] = "“{$phrase}” says: ".$allowed->words().' '.json_encode($allowed->lists());
                $lines[] = "“{$phrase}” takes: ".implode('|', array_filter(self::VALUES, $allowed->fits(...)));
                foreach (['mariadb', 'postgresql', 'sqlite'] as $engine) {
                    $sql = Dialects::of($engine)->profiling() ?? self::fail();
                    foreach ([
                        ['int(11)', TypeFamily::Whole],
                        ['varchar(20)', TypeFamily::Text],
                        ['date', TypeFamily::Time],
                        ['decimal(6,2)', TypeFamily::Number],
                    ] as [$type, $family]) {
                        $lines[] = "“{$phrase}” in $engine as $type: ".$allowed->breaks($sql, new Column('a b', $type), $family);
                    }
                }
            } catch (AllowedError $e) {
                $lines[] = "“{$phrase}” is refused at $e->at: ".$e->getMessage();
            }
        }

        Snapshot::same('values.allowed', $lines);
    }

    public function testCodesThatArePasted(): void
    {
        $lines = [];
        foreach ([
            "G\tgood\nS\tsuspect", "G;good;really\nS;suspect", "G = good\nS = suspect\nB", "G: good, all of it\nS: suspect", "G, good\nS, suspect",
            "G\nS\n\nB\n", '', "\n\n", "G;good\nG;better\nS;",
            "G;\nG;good", 'toolong;x', ';no code', '"a;b";quoted', "one = 1\ntwo\nthree",
        ] as $text) {
            try {
                $lines[] = addcslashes($text, "\n\t").': '.json_encode(Pasted::codes($text, 5), \JSON_UNESCAPED_UNICODE);
            } catch (AllowedError $e) {
                $lines[] = addcslashes($text, "\n\t").' is refused: '.$e->getMessage();
            }
        }

        Snapshot::same('values.pasted', $lines);
    }

    /** @param list<string> $words */
    #[TestWith(['country code (ISO 3166)', [], 2, 'countries, two letters'])]
    #[TestWith(['country code (ISO 3166)', [], 3, 'countries, three letters'])]
    #[TestWith(['country code (ISO 3166)', [], null, 'countries, two letters'])]
    #[TestWith(['currency code (ISO 4217)', [], 9, 'currencies'])]
    #[TestWith(['', ['currency'], 3, 'currencies'])]
    #[TestWith(['', ['home', 'country'], 2, 'countries, two letters'])]
    #[TestWith(['', ['country'], 9, null])]
    #[TestWith(['', ['language'], 2, 'languages'])]
    #[TestWith(['code', ['language'], 2, null])]
    #[TestWith(['', ['land'], 2, null])]
    #[TestWith(['', [], null, null])]
    public function testTheListThatAFieldIsLikelyToBeFrom(string $likely, array $words, ?int $length, ?string $list): void
    {
        self::assertSame($list, Lists::likely($likely, $words, $length)?->name);
    }

    public function testListsThatShip(): void
    {
        foreach (Lists::all() as $name => $list) {
            self::assertSame($list, Lists::named(' '.mb_strtoupper($name).' '));
            self::assertNotSame([], $list->codes);
            self::assertNotSame('', $list->meaning);
        }
        self::assertNull(Lists::named('no such list'));
        foreach (['AT' => [true, false, false], 'EUR' => [false, true, false], 'en' => [false, false, true], 'AUT' => [true, false, false], 'XX' => [false,
            false, false],
            '' => [false, false, false], 'at' => [true, false, false]] as $code => $is) {
            self::assertSame($is, [Iso::isCountry((string) $code), Iso::isCurrency((string) $code), Iso::isLanguage((string) $code)], (string) $code);
        }
    }

    /** @return list<string>|null */
    private static function codes(string $name): ?array
    {
        return 'flags' === $name ? ['G', 'S'] : null;
    }
}
