<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;

/** Reads a type as people say it. */
final class TypeReader
{
    /** Other ways to say the same. */
    private const ALSO = [
        'whole' => 'whole number', 'integer' => 'whole number', 'boolean' => 'yes or no', 'yes/no' => 'yes or no', 'datetime' => 'date and time',
        'timestamp' => 'instant',
        'time' => 'time of day', 'uuid' => 'UUID', 'json' => 'JSON document', 'json document' => 'JSON document', 'xml document' => 'XML document',
        'string' => 'text',
        'duration' => 'length of time', 'ip address' => 'IP address', 'money' => 'number with 2 decimals', 'decimal' => 'number', 'numeric' => 'number',
    ];
    /** @var array<string, ?GeneralType> what was read before */
    private static array $known = [];
    private const FIGURE = '(?:-|−)?\d[\d,]*(?:\.\d+)?';

    /** @return list<string> what a type may be, for completion */
    public static function words(): array
    {
        return [
            'text up to 80', 'text of 4', 'text', 'long text', 'whole number', 'whole number from 1 to 12', 'whole number of 0 or more', 'large whole number',
            'small whole number',
            'number from 0 to 9,999.99', 'number with 2 decimals', 'approximate number', 'yes or no', 'date', 'date and time', 'instant', 'time of day',
            'length of time', 'year',
            'one of ', 'any of ', 'UUID', 'JSON document', 'XML document', 'IP address', 'bytes', 'point on a map', 'line on a map', 'area on a map',
            'shape on a map',
        ];
    }

    /** @return GeneralType|null null where it is none; lists of values are read elsewhere */
    public static function of(Piece $piece): ?GeneralType
    {
        if ($piece->isQuoted()) {
            return GeneralType::native($piece->quotes[0]);
        }
        if (\count(self::$known) > 2000) {
            self::$known = [];
        }

        return \array_key_exists($piece->text, self::$known) ? self::$known[$piece->text]
            : self::$known[$piece->text] = self::plain(mb_strtolower($piece->text));
    }

    private static function plain(string $words): ?GeneralType
    {
        foreach (GeneralType::PLAIN as $plain) {
            if ($words === mb_strtolower($plain)) {
                return new GeneralType($plain);
            }
        }
        $f = self::FIGURE;
        $sizes = 'tiny |small |large |';

        return match (true) {
            'text' === $words => new GeneralType('text'),
            1 === preg_match('/^text,? up to ([\d,]+)(?: characters?)?$/', $words, $m) => new GeneralType('text', self::whole($m[1])),
            1 === preg_match('/^text of ([\d,]+)(?: characters?)?$/', $words, $m) => new GeneralType('fixed text', self::whole($m[1])),
            1 === preg_match('/^bytes up to ([\d,]+)$/', $words, $m) => new GeneralType('bytes', self::whole($m[1])),
            1 === preg_match('/^bytes of ([\d,]+)$/', $words, $m) => new GeneralType('fixed bytes', self::whole($m[1])),
            1 === preg_match("/^($sizes)whole number$/", $words, $m) => new GeneralType('whole', GeneralType::SIZES[$m[1]]),
            1 === preg_match("/^($sizes)whole number of 0 or more$/", $words, $m) => new GeneralType('whole', GeneralType::SIZES[$m[1]], '0'),
            1 === preg_match("/^whole number from ($f) to ($f)$/", $words, $m) => new GeneralType('whole', null, self::figure($m[1]), self::figure($m[2])),
            1 === preg_match("/^($sizes)whole number from ($f)$/", $words, $m) => new GeneralType('whole', GeneralType::SIZES[$m[1]], self::figure($m[2])),
            1 === preg_match("/^($sizes)whole number up to ($f)$/", $words, $m) => new GeneralType(
                'whole',
                GeneralType::SIZES[$m[1]],
                null,
                self::figure($m[2]),
            ),
            1 === preg_match("/^number from ($f) to ($f)$/", $words, $m) => new GeneralType('number', null, self::figure($m[1]), self::figure($m[2])),
            1 === preg_match("/^number from ($f) to ($f) with (\\d+) decimals?$/", $words, $m) => new GeneralType(
                'number', null, self::figure($m[1]), self::figure($m[2]), (int) $m[3],
            ),
            1 === preg_match('/^number(?: of ([\d,]+) digits?)?(?: with (\d+) decimals?)?$/', $words, $m, \PREG_UNMATCHED_AS_NULL) => new GeneralType(
                'number', isset($m[1]) ? self::whole($m[1]) : null, decimals: isset($m[2]) ? (int) $m[2] : null,
            ),
            1 === preg_match(
                '/^(date and time|instant|time of day)(?: to the (second|millisecond|microsecond)| to (\d) decimals?)?$/',
                $words,
                $m,
            ) => new GeneralType(
                $m[1], decimals: ['' => null, 'second' => null, 'millisecond' => 3, 'microsecond' => 6][$m[2] ?? ''] ?? (isset($m[3]) ? (int) $m[3] : null),
            ),
            isset(self::ALSO[$words]) => self::plain(self::ALSO[$words]),
            default => null,
        };
    }

    /** A figure as people write it, as a decimal. */
    public static function figure(string $written): string
    {
        return str_replace(['−', ','], ['-', ''], $written);
    }

    private static function whole(string $written): int
    {
        return (int) min(2000000000, (float) str_replace(',', '', $written));
    }

    /**
     * Types that are written nearly so.
     *
     * @return list<string>
     */
    public static function near(string $written): array
    {
        $known = [
            'text', 'long text', 'text up to 80', 'whole number', 'number', 'date', 'date and time', 'instant', 'time of day', 'yes or no', 'year', 'UUID',
            'JSON document',
            'bytes', 'one of', 'length of time', 'approximate number', ...array_keys(self::ALSO),
        ];
        $found = [];
        foreach ($known as $word) {
            $apart = levenshtein(substr(mb_strtolower($written), 0, 40), mb_strtolower($word));
            if ($apart <= max(1, (int) (\strlen($word) / 3)) || (\strlen($written) >= 2 && str_starts_with(mb_strtolower($word), mb_strtolower($written)))) {
                $found[self::ALSO[$word] ?? $word] = min($found[self::ALSO[$word] ?? $word] ?? 99, $apart);
            }
        }
        asort($found);

        return \array_slice(array_map(strval(...), array_keys($found)), 0, 3);
    }
}
