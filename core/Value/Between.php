<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

/** From one end to another, of numbers or of days; an end that is '' is open. */
final readonly class Between implements Part
{
    /** @throws AllowedError where an end is a day that no calendar has */
    public function __construct(public string $least, public string $greatest, public bool $withLeast = true, public bool $withGreatest = true)
    {
        foreach ($this->ofDays() ? [$least, $greatest] : [] as $end) {
            if ('' !== $end && !self::isDay($end)) {
                throw new AllowedError(\sprintf('%s is no day of the calendar.', $end));
            }
        }
    }

    private static function isDay(string $value): bool
    {
        return 1 === preg_match('/^(\d{4})-(\d\d)-(\d\d)(?:[T ]|$)/', $value, $m) && checkdate((int) $m[2], (int) $m[3], (int) $m[1]);
    }

    public function fits(string $value): bool
    {
        if ($this->ofDays()) {
            if (!self::isDay($value)) {
                return false;
            }
            $value = substr($value, 0, max(\strlen($this->least), \strlen($this->greatest)));
            $low = '' === $this->least ? 1 : strcmp($value, $this->least);
            $high = '' === $this->greatest ? -1 : strcmp($value, $this->greatest);
        } else {
            if (!is_numeric($value)) {
                return false;
            }
            $low = '' === $this->least ? 1 : (float) $value <=> (float) $this->least;
            $high = '' === $this->greatest ? -1 : (float) $value <=> (float) $this->greatest;
        }

        return ($low > 0 || 0 === $low && $this->withLeast) && ($high < 0 || 0 === $high && $this->withGreatest);
    }

    public function ofDays(): bool
    {
        return str_contains(substr($this->least.' '.$this->greatest, 1), '-') && 1 === preg_match('/\d{4}-\d\d/', $this->least.$this->greatest);
    }

    public function sql(ProfileSql $sql, Column $column, TypeFamily $family): string
    {
        if ($this->ofDays() ? TypeFamily::Time !== $family : !$family->isNumeric()) {
            return '';
        }
        $name = $sql->quoted($column->name);
        $end = fn (string $value): string => $this->ofDays() ? $sql->literal($value) : $value;
        $parts = [];
        if ('' !== $this->least) {
            $parts[] = $name.($this->withLeast ? ' >= ' : ' > ').$end($this->least);
        }
        if ('' !== $this->greatest) {
            // A day that is allowed is allowed to its last moment.
            $parts[] = $this->ofDays() && $this->withGreatest && 10 === \strlen($this->greatest)
                ? $name.' < '.$end((new \DateTimeImmutable($this->greatest))->modify('+1 day')->format('Y-m-d'))
                : $name.($this->withGreatest ? ' <= ' : ' < ').$end($this->greatest);
        }

        return implode(' AND ', $parts);
    }

    public function words(): string
    {
        return match (true) {
            '' === $this->greatest => ($this->withLeast ? 'at least ' : 'more than ').$this->least,
            '' === $this->least => ($this->withGreatest ? 'at most ' : 'less than ').$this->greatest,
            default => $this->least.' to '.$this->greatest,
        };
    }
}
