<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A stretch of time that people name: a year, a month, a day, "last month", "last 30 days". It holds its beginning and not its end. */
final readonly class Period
{
    private function __construct(public \DateTimeImmutable $from, public \DateTimeImmutable $to)
    {
    }

    /** Which words are understood, for whoever wrote others. */
    public const HELP = 'a year (2025), a quarter (2025 Q3), a month (2025-07), a day (2025-07-21), an instant (2025-07-21 14:30), today, yesterday, '
        .'this or last week, month, quarter or year, or the last 30 days (weeks, months, years)';

    /** @return self|null null where the words are not understood */
    public static function named(string $words, \DateTimeImmutable $today): ?self
    {
        $words = mb_strtolower(trim((string) preg_replace('/\s+/', ' ', $words)));
        $day = $today->setTime(0, 0);

        return match (true) {
            'today' === $words => new self($day, $day->modify('+1 day')),
            'yesterday' === $words => new self($day->modify('-1 day'), $day),
            1 === preg_match('/^(this|last) (week|month|quarter|year)$/', $words, $m) => self::around($day, $m[2], 'last' === $m[1] ? 1 : 0),
            1 === preg_match('/^(?:the )?last (\d{1,4}) (day|week|month|year)s?$/', $words, $m) => self::until($day->modify('+1 day'), (int) $m[1], $m[2]),
            default => self::written($words),
        };
    }

    /**
     * So many units up to a day. Months and years are counted back to the same day of the month, or to the last one of a shorter month: "last 1 month" on
     * 30 March begins on 28 February.
     */
    private static function until(\DateTimeImmutable $to, int $many, string $unit): self
    {
        if ('month' !== $unit && 'year' !== $unit) {
            return new self($to->modify("-$many $unit"), $to);
        }
        $month = $to->modify('first day of this month')->modify("-$many $unit");
        $day = min((int) $to->format('j'), (int) $month->format('t'));

        return new self($month->setDate((int) $month->format('Y'), (int) $month->format('n'), $day), $to);
    }

    private static function around(\DateTimeImmutable $day, string $unit, int $back): self
    {
        $from = match ($unit) {
            'week' => $day->modify('monday this week'),
            'month' => $day->modify('first day of this month'),
            'quarter' => $day->setDate((int) $day->format('Y'), intdiv((int) $day->format('n') - 1, 3) * 3 + 1, 1),
            default => $day->setDate((int) $day->format('Y'), 1, 1),
        };
        $length = 'quarter' === $unit ? '3 months' : "1 $unit";
        $from = 0 === $back ? $from : $from->modify("-$length");

        return new self($from, $from->modify("+$length"));
    }

    private static function written(string $words): ?self
    {
        $at = static fn (string $text): \DateTimeImmutable => new \DateTimeImmutable($text, new \DateTimeZone('UTC'));
        if (1 === preg_match('/^(\d{4})$/', $words, $m)) {
            return new self($at("$m[1]-01-01"), $at("$m[1]-01-01")->modify('+1 year'));
        }
        if (1 === preg_match('/^(\d{4})[ -]?q([1-4])$/', $words, $m)) {
            $from = $at(\sprintf('%s-%02d-01', $m[1], 3 * (int) $m[2] - 2));

            return new self($from, $from->modify('+3 months'));
        }
        if (1 === preg_match('/^(\d{4})-(\d{2})$/', $words, $m) && $m[2] >= '01' && $m[2] <= '12') {
            return new self($at("$words-01"), $at("$words-01")->modify('+1 month'));
        }
        if (1 === preg_match('/^(\d{4})-(\d{2})-(\d{2})$/', $words, $m) && checkdate((int) $m[2], (int) $m[3], (int) $m[1])) {
            return new self($at($words), $at($words)->modify('+1 day'));
        }
        if (1 === preg_match('/^(\d{4})-(\d{2})-(\d{2})[ t](\d{2}):(\d{2})(?::(\d{2}))?$/', $words, $m) && checkdate((int) $m[2], (int) $m[3], (int) $m[1])
            && $m[4] < '24' && $m[5] < '60') {
            $from = $at(str_replace('t', ' ', $words));

            return new self($from, $from->modify(isset($m[6]) ? '+1 second' : '+1 minute'));
        }

        return null;
    }

    public function begins(): string
    {
        return self::said($this->from);
    }

    public function ends(): string
    {
        return self::said($this->to);
    }

    private static function said(\DateTimeImmutable $at): string
    {
        return $at->format('00:00:00' === $at->format('H:i:s') ? 'Y-m-d' : 'Y-m-d H:i:s');
    }
}
