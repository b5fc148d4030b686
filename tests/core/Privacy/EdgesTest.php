<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Privacy;

use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Privacy\FieldName;
use Fasti\Core\Privacy\Masking;
use Fasti\Core\Privacy\People;
use Fasti\Core\Privacy\Secrets;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Where one thing ends and another begins. */
final class EdgesTest extends TestCase
{
    /** @return list<string> values as a generator of keys gives them */
    private static function keys(int $length, string $alphabet, int $count = 5): array
    {
        $keys = [];
        $state = 17;
        for ($i = 0; $i < $count; ++$i) {
            $key = '';
            for ($j = 0; $j < $length; ++$j) {
                $state = ($state * 1103515245 + 12345) & 0x7FFFFFFF;
                $key .= $alphabet[($state >> 8) % \strlen($alphabet)];
            }
            $keys[] = $key;
        }

        return $keys;
    }

    private static function random(string ...$values): bool
    {
        return '' !== Secrets::byForm(FieldName::of('value'), array_values($values));
    }

    public function testWhatLooksDrawnByChanceIsASecretFromTwentySignsOn(): void
    {
        $mixed = 'abcdefghijklmnopqrstuvwxyz0123456789';

        self::assertTrue(self::random(...self::keys(20, $mixed)));
        self::assertFalse(self::random(...self::keys(19, $mixed)));
        self::assertTrue(self::random(...self::keys(512, $mixed)));
        self::assertFalse(self::random(...self::keys(513, $mixed)));
        self::assertTrue(self::random(...self::keys(32, '0123456789abcdef')));
    }

    public function testItHasLettersAndDigitsAndNothingElse(): void
    {
        self::assertFalse(self::random(...self::keys(30, 'abcdefghijklmnopqrstuvwxyz')));
        self::assertFalse(self::random(...self::keys(30, '0123456789')));
        self::assertFalse(self::random(...self::keys(30, 'abcdefghijklmnopqrst0123456789 ')));
        self::assertFalse(self::random(...self::keys(30, 'ab1')));
    }

    public function testDatesPathsAndIdentifiersOfPartsAreNone(): void
    {
        $tail = self::keys(24, 'abcdefghijklmnopqrstuvwxyz0123456789');
        foreach (['2026-11-30T', '/', './', 'https', 'AB-1', 'ab-cd-ef-', '7c9e6679-7425-'] as $head) {
            self::assertFalse(self::random(...array_map(static fn (string $key): string => $head.$key, $tail)), $head);
        }
        self::assertFalse(self::random(...array_map(static fn (string $key): string => $key.'.png', $tail)));
    }

    public function testFewOrEqualValuesTellNothingAndOneInFiveMayBeAnother(): void
    {
        $keys = self::keys(24, 'abcdefghijklmnopqrstuvwxyz0123456789', 10);

        self::assertFalse(self::random($keys[0], $keys[1]));
        self::assertTrue(self::random($keys[0], $keys[1], $keys[2]));
        self::assertFalse(self::random(...array_fill(0, 10, $keys[0])));
        self::assertTrue(self::random(...\array_slice($keys, 0, 8), ...['a word', 'another']));
        self::assertFalse(self::random(...\array_slice($keys, 0, 7), ...['a word', 'another', 'a third']));
    }

    #[TestWith(['digest'])]
    #[TestWith(['file_hash'])]
    #[TestWith(['url'])]
    public function testWhereSuchValuesAreExpectedTheyAreNone(string $name): void
    {
        $keys = self::keys(40, '0123456789abcdef');

        self::assertSame('', Secrets::byForm(FieldName::of($name), $keys));
        self::assertSame('its values look like keys or tokens', Secrets::byForm(FieldName::of('blob'), $keys));
        self::assertSame('', Secrets::byForm(FieldName::of('blob'), []));
    }

    /** @param list<string> $values */
    private static function people(array $values, string $name = 'value', string $likely = ''): string
    {
        return People::reason('thing', FieldName::of($name), $likely, $values);
    }

    public function testHalfOfTheValuesTellOfMailAndAccounts(): void
    {
        self::assertSame('its values are e-mail addresses', self::people(['oona@arrowmere.example', 'none']));
        self::assertNotSame('its values are e-mail addresses', self::people(['oona@arrowmere.example', 'none', 'nothing']));
        self::assertSame('its values are bank accounts', self::people(['DE89370400440532013000', 'none']));
        self::assertSame('', self::people(['DE89370400440532013000', 'none', 'nothing']));
    }

    public function testFourInFiveTellOfAddressesOfMachines(): void
    {
        self::assertSame('its values are IP addresses', self::people(['10.0.0.1', '10.0.0.2', '::1', '10.0.0.4', 'none']));
        self::assertSame('', self::people(['10.0.0.1', '10.0.0.2', '::1', 'nothing', 'none']));
        self::assertSame('', self::people(['10.0.0.1', '10.0.0.2', '::1'], 'app_version'));
    }

    public function testNamesOfPeopleHaveFourWordsAtTheMostAndAGivenNameAmongThem(): void
    {
        $named = 'its values are names of people';

        self::assertSame($named, self::people(['Anna Berg', 'Peter Falk', 'Maria Lund', 'Ida Fell']));
        self::assertSame($named, self::people(['Berg, Anna', 'Falk, Peter', 'Lund, Maria', 'Fell, Ida']));
        self::assertSame('', self::people(['Anna Berg', 'Peter Falk', 'Maria Lund'], 'ship'));
        self::assertSame('', self::people(['Anna Berg', 'Peter Falk', 'Anna Berg']));
        self::assertSame('', self::people(['Green Hill', 'Long Water', 'Stone Bridge', 'High Meadow']));
        self::assertSame('', self::people(['Anna of the Long Green Hill', 'Peter of the Long Green Hill', 'Maria of the Long Green Hill']));
    }

    public function testAMaskHasLettersWhereLettersWereAndDigitsWhereDigitsWere(): void
    {
        $masking = new Masking();
        $text = new Type(TypeFamily::Text, 'varchar(80)', 'varchar', 80);
        for ($i = 0; $i < 40; ++$i) {
            $value = str_repeat('Q', 30).'-'.str_repeat('q', 30).'-'.str_pad((string) $i, 10, '7', \STR_PAD_LEFT);
            self::assertMatchesRegularExpression('/^[A-Z]{30}-[a-z]{30}-\d{10}$/', $masking->of($value, $text));
            // Only at its beginning does a number keep that it begins otherwise than with 0.
            self::assertMatchesRegularExpression('/^[1-9]\d{9}$/', $masking->of(str_pad((string) $i, 10, '7', \STR_PAD_LEFT), $text));
        }
    }

    #[TestWith(['straßeName', 'strasse_name'])]
    #[TestWith(['Größe', 'groesse'])]
    #[TestWith(['E-mail [private]', 'e_mail_private'])]
    #[TestWith(['rows[].lastName', 'last_name'])]
    #[TestWith(['doc.a{}.lastName', 'last_name'])]
    #[TestWith(['customerEMail', 'customer_e_mail'])]
    #[TestWith(['XMLPath', 'xml_path'])]
    #[TestWith(['имя', 'ima'])]
    #[TestWith(['__plain__', 'plain'])]
    public function testANameIsTakenApartIntoWordsOfPlainLetters(string $name, string $words): void
    {
        self::assertSame(trim(str_replace('_', ' ', $words)), FieldName::of($name)->matches('/^.*$/'));
    }
}
