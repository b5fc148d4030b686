<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Catalog\Quotes;

/** Writes constants as PostgreSQL keeps them: read by their type, and shown in the form of it (in UTC, ISO dates). */
final readonly class Constants
{
    private const UNITS = [
        'microsecond' => ['us', 1], 'us' => ['us', 1], 'millisecond' => ['us', 1000], 'ms' => ['us', 1000], 'second' => ['us', 1_000_000],
        'sec' => ['us', 1_000_000], 's' => ['us', 1_000_000],
        'minute' => ['us', 60_000_000], 'min' => ['us', 60_000_000], 'm' => ['us', 60_000_000], 'hour' => ['us', 3_600_000_000], 'hr' => ['us', 3_600_000_000],
        'h' => ['us', 3_600_000_000],
        'day' => ['d', 1], 'd' => ['d', 1], 'week' => ['d', 7], 'w' => ['d', 7], 'month' => ['m', 1], 'mon' => ['m', 1], 'year' => ['m', 12], 'yr' => ['m', 12],
        'y' => ['m', 12],
        'decade' => ['m', 120], 'century' => ['m', 1200],
    ];

    public function __construct(private PostgreSqlTyping $typing)
    {
    }

    public function of(string $type, string $text): Written
    {
        $kept = $this->kept($type, $text);
        $bare = match (true) {
            'bool' === $type => true,
            'int4' === $type => 1 === preg_match('/^\d+$/', $kept),
            'numeric' === $type => 1 === preg_match('/^\d+(?:\.\d*)?(?:e[+-]?\d+)?$/i', $kept) && 1 === preg_match('/[.eE]/', $kept),
            default => false,
        };

        return new Written($bare ? $kept : $this->bare($type, $kept).'::'.$this->typing->shownType($type), $type, $kept);
    }

    /** A constant without its type. */
    public function bare(string $type, string $text): string
    {
        return Quotes::around($text, "'");
    }

    private function kept(string $type, string $text): string
    {
        return match ($type) {
            'bool' => self::isTrue($text) ? 'true' : 'false',
            'int2', 'int4', 'int8', 'oid' => 1 === preg_match('/^\s*([+-]?)0*(\d+)\s*$/', $text, $m) ? ('-' === $m[1] ? '-' : '').$m[2] : $text,
            'numeric' => self::numeric(trim($text)),
            'float4', 'float8' => is_numeric(trim($text)) ? self::float((float) $text) : $text,
            'date' => self::date($text),
            'timestamp' => self::moment($text, ''),
            'timestamptz' => self::moment($text, '+00'),
            'time' => self::time($text),
            'interval' => self::interval($text),
            'uuid' => strtolower(trim($text, ' {}')),
            'jsonb' => self::json($text),
            'tsvector' => self::words($text),
            'bytea' => str_starts_with($text, '\\x') ? strtolower($text) : '\\x'.bin2hex($text),
            default => $text,
        };
    }

    private static function numeric(string $text): string
    {
        $text = ltrim($text, '+');
        if (1 !== preg_match('/^(-?)(\d*)(?:\.(\d*))?e([+-]?\d+)$/i', $text, $m)) {
            return $text;
        }
        $digits = $m[2].$m[3];
        $point = \strlen($m[2]) + (int) $m[4];
        if (abs($point) > 1000) {
            return $text;
        }
        $digits = match (true) {
            $point > \strlen($digits) => str_pad($digits, $point, '0'),
            $point < 1 => str_repeat('0', 1 - $point).$digits,
            default => $digits,
        };
        $point = max(1, $point);
        $whole = ltrim(substr($digits, 0, $point), '0');

        return $m[1].('' === $whole ? '0' : $whole).(\strlen($digits) > $point ? '.'.substr($digits, $point) : '');
    }

    private static function isTrue(string $text): bool
    {
        return 1 === preg_match('/^\s*(?:t|tr|tru|true|y|ye|yes|on|1)\s*$/i', $text);
    }

    private static function float(float $value): string
    {
        $text = json_encode($value);

        return str_contains((string) $text, '.0') && str_ends_with((string) $text, '.0') ? substr((string) $text, 0, -2) : (string) $text;
    }

    private static function date(string $text): string
    {
        return match (true) {
            1 === preg_match('/^(\d{4})-(\d{1,2})-(\d{1,2})(?:[ T].*)?$/', trim($text), $m) => \sprintf('%04d-%02d-%02d', $m[1], $m[2], $m[3]),
            'epoch' === $text => '1970-01-01',
            1 === preg_match('/^(\d{4})(\d\d)(\d\d)$/', $text, $m) => "$m[1]-$m[2]-$m[3]",
            default => $text,
        };
    }

    private static function moment(string $text, string $zone): string
    {
        $text = trim($text);
        if ('epoch' === $text) {
            return '1970-01-01 00:00:00'.$zone;
        }
        if (1 !== preg_match(
            '/^(\d{4})-(\d{1,2})-(\d{1,2})(?:[ T](\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?)?\s*(Z|UTC|GMT|[+-]\d{2}(?::?\d{2})?)?$/i',
            $text,
            $m,
        )) {
            return $text;
        }
        $seconds = ($m[6] ?? '') ?: '00';
        $said = \sprintf(
            '%04d-%02d-%02d %02d:%02d:',
            $m[1],
            $m[2],
            $m[3],
            (int) ($m[4] ?? 0),
            (int) ($m[5] ?? 0),
        ).(str_contains($seconds, '.') ? rtrim(rtrim($seconds, '0'), '.') : $seconds);
        if ('' !== $zone && 1 === preg_match('/^[+-]/', $m[7] ?? '')) {
            $moment = new \DateTimeImmutable($said.$m[7]);

            return $moment->setTimezone(new \DateTimeZone('UTC'))->format('Y-m-d H:i:s').$zone;
        }

        return $said.$zone;
    }

    private static function time(string $text): string
    {
        return 1 === preg_match('/^(\d{1,2}):(\d\d)(?::(\d\d(?:\.\d+)?))?$/', trim($text), $m)
            ? \sprintf('%02d:%02d:%s', $m[1], $m[2], ($m[3] ?? '') ?: '00')
            : $text;
    }

    /** `1 hour` is shown as `01:00:00`, `14 months` as `1 year 2 mons`. */
    private static function interval(string $text): string
    {
        $text = trim($text);
        $sum = ['m' => 0, 'd' => 0, 'us' => 0];
        $rest = (string) preg_replace_callback('/([+-]?\d+(?:\.\d+)?)\s*([a-z]+)/i', static function (array $m) use (&$sum): string {
            $unit = strtolower($m[2]);
            $unit = isset(self::UNITS[$unit]) ? $unit : (string) preg_replace('/s$/', '', 'centuries' === $unit ? 'century' : $unit);
            if (!isset(self::UNITS[$unit])) {
                return $m[0];
            }
            [$of, $times] = self::UNITS[$unit];
            $value = (float) $m[1] * $times;
            if ('us' !== $of && floor($value) !== $value) {
                return $m[0];
            }
            $sum[$of] += (int) round($value);

            return '';
        }, $text);
        if (1 === preg_match('/^\s*([+-]?)(\d{1,}):(\d\d)(?::(\d\d)(?:\.(\d+))?)?\s*$/', $rest, $m)) {
            $us = ((int) $m[2] * 3600 + (int) $m[3] * 60 + (int) ($m[4] ?? 0)) * 1_000_000 + (int) str_pad($m[5] ?? '', 6, '0');
            $sum['us'] += '-' === $m[1] ? -$us : $us;
        } elseif (1 === preg_match('/^\s*([+-]?\d+)\s*$/', $rest, $m)) {
            $sum['us'] += (int) $m[1] * 1_000_000;
        } elseif ('' !== trim($rest)) {
            return $text;
        }
        $parts = [];
        foreach ([[intdiv($sum['m'], 12), 'year'], [$sum['m'] % 12, 'mon'], [$sum['d'], 'day']] as [$count, $unit]) {
            if (0 !== $count) {
                $parts[] = $count.' '.$unit.(1 === $count ? '' : 's');
            }
        }
        if (0 !== $sum['us'] || [] === $parts) {
            $us = abs($sum['us']);
            $seconds = intdiv($us, 1_000_000);
            $fraction = $us % 1_000_000;
            $parts[] = ($sum['us'] < 0 ? '-' : '').\sprintf('%02d:%02d:%02d', intdiv($seconds, 3600), intdiv($seconds, 60) % 60, $seconds % 60)
                .(0 === $fraction ? '' : '.'.rtrim(\sprintf('%06d', $fraction), '0'));
        }

        return implode(' ', $parts);
    }

    /** Plain words as a list of lexemes. */
    private static function words(string $text): string
    {
        if (1 !== preg_match('/^[\w\s]*$/u', $text)) {
            return $text;
        }
        $words = array_unique(preg_split('/\s+/', $text, -1, \PREG_SPLIT_NO_EMPTY) ?: []);
        sort($words, \SORT_STRING);

        return implode(' ', array_map(static fn (string $word): string => "'$word'", $words));
    }

    /** A document as the server keeps it: a blank behind each colon and comma, names by length and then by letters. */
    private static function json(string $text): string
    {
        try {
            return self::spaced(json_decode($text, false, 512, \JSON_THROW_ON_ERROR));
        } catch (\JsonException) {
            return $text;
        }
    }

    private static function spaced(mixed $value): string
    {
        if (\is_array($value)) {
            return '['.implode(', ', array_map(self::spaced(...), $value)).']';
        }
        if ($value instanceof \stdClass) {
            $members = get_object_vars($value);
            uksort($members, static fn (int|string $a, int|string $b): int => [\strlen((string) $a), (string) $a] <=> [\strlen((string) $b), (string) $b]);

            return '{'.implode(
                ', ',
                array_map(
                    static fn (int|string $name, mixed $of): string => json_encode(
                        (string) $name,
                        \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
                    ).': '.self::spaced($of),
                    array_keys($members),
                    $members,
                ),
            ).'}';
        }

        return (string) json_encode($value, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION);
    }
}
