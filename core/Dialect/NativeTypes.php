<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Wording\TypeWords;

/** General types in the words of an engine, and back. As it stands here it is SQL of the standard. */
class NativeTypes
{
    /** @var array<string, string> */
    protected const PLAIN = [
        'long text' => 'clob', 'approximate number' => 'double precision', 'yes or no' => 'boolean', 'date' => 'date',
        'length of time' => 'interval day to second',
        'year' => 'smallint', 'UUID' => 'char(36)', 'JSON document' => 'clob', 'XML document' => 'clob', 'IP address' => 'varchar(45)', 'bytes' => 'blob',
        'point on a map' => 'st_geometry', 'line on a map' => 'st_geometry', 'area on a map' => 'st_geometry', 'shape on a map' => 'st_geometry',
    ];
    /** @var array<string, string> name of each time, with its decimals where %s stands */
    protected const TIMES = ['date and time' => 'timestamp%s', 'instant' => 'timestamp%s with time zone', 'time of day' => 'time%s'];
    /** @var string what a time without decimals of its own has to say, where the engine would keep six */
    protected const NO_DECIMALS = '(0)';
    /** @var non-empty-array<int, string> by bits */
    protected const WHOLE = [16 => 'smallint', 32 => 'integer', 64 => 'bigint'];
    /** @var array<int, string> by bits */
    protected const UNSIGNED = [];
    /** @var string */
    protected const TEXT = 'varchar(%d)';
    /** @var string */
    protected const FIXED = 'char(%d)';
    /** @var string */
    protected const NUMBER = 'decimal(%d,%d)';
    /** @var string */
    protected const BYTES = 'varbinary(%d)';
    /** @var string */
    protected const FIXED_BYTES = 'binary(%d)';
    /** @var string */
    protected const ANY_NUMBER = 'decimal(20,6)';
    /** @var int */
    protected const UNSAID = 200;
    /** @var int */
    protected const MOST_TEXT = 65535;
    /** @var int */
    protected const MOST_DIGITS = 38;

    /** @var array<string, string> what a type becomes where it has to be in a key */
    protected const IN_KEYS = ['clob' => 'varchar(255)', 'blob' => 'varbinary(255)'];
    /** @var string types that can be in no key at all */
    protected const NEVER_KEYS = '/^(?:st_geometry|xml)/i';

    public function __construct(protected readonly Dialect $dialect)
    {
    }

    public function native(GeneralType $type): Native
    {
        return match (true) {
            'native' === $type->kind => new Native($type->native),
            '' === $type->kind => new Native($this->textUpTo(self::UNSAID)->type),
            'text' === $type->kind => null === $type->length ? new Native($this->anyText()) : $this->textUpTo($type->length),
            'fixed text' === $type->kind => $this->fixedText(max(1, (int) $type->length)),
            'whole' === $type->kind => $this->whole($type),
            'number' === $type->kind => $this->number($type),
            'one of' === $type->kind => $this->oneOf($type->members),
            'any of' === $type->kind => $this->anyOf($type->members),
            'bytes' === $type->kind && null !== $type->length => new Native(\sprintf(static::BYTES, $type->length)),
            'fixed bytes' === $type->kind => new Native(\sprintf(static::FIXED_BYTES, max(1, (int) $type->length))),
            isset(static::TIMES[$type->kind]) => $this->time($type),
            isset(static::PLAIN[$type->kind]) => $this->plain($type->kind),
            default => new Native($type->kind),
        };
    }

    /**
     * The type of its own that an engine has for a list of values; null where it has none.
     *
     * @param list<string> $members
     * @param bool         $several a value may hold more than one
     */
    public function ownList(array $members, bool $several): ?string
    {
        return null;
    }

    /** What a type becomes where it has to be in a key; null where it can be in none. */
    public function inKey(Native $native): ?Native
    {
        if (1 === preg_match(static::NEVER_KEYS, $native->type)) {
            return null;
        }
        $type = static::IN_KEYS[$native->type] ?? $native->type;

        return $type === $native->type ? $native : (new Native($type, $native->check, $native->warning))->with(
            '',
            \sprintf('Since it is in a key, it is %s here.', $type),
        );
    }

    /** How many characters of it an index keeps, where it cannot keep the whole. */
    public function indexed(string $type): ?int
    {
        return isset(static::IN_KEYS[$type]) ? 255 : null;
    }

    /** A given value as the catalog writes it, without what the engine adds of its own. */
    public function bare(string $default, string $type): string
    {
        return $default;
    }

    /** The words for a native type that become it again, without any condition; null where none do. */
    public function general(Column $column): ?GeneralType
    {
        foreach ($this->candidates($column) as $type) {
            $native = [] === $type->members ? $this->native($type) : new Native($this->ownList($type->members, 'any of' === $type->kind) ?? '');
            if ($native->type === $column->type && '' === $native->check) {
                return $type;
            }
        }

        return null;
    }

    /** @return iterable<GeneralType> */
    protected function candidates(Column $column): iterable
    {
        $read = $this->dialect->typeOf($column);
        foreach (GeneralType::TIMES as $kind) {
            yield new GeneralType($kind);
            yield new GeneralType($kind, decimals: (int) $read->scale);
        }
        foreach (GeneralType::SIZES as $bits) {
            yield new GeneralType('whole', $bits);
            yield new GeneralType('whole', $bits, '0');
        }
        foreach ([...GeneralType::PLAIN, 'text'] as $kind) {
            yield new GeneralType($kind);
        }
        if (null !== $read->length) {
            yield new GeneralType('text', $read->length);
            yield new GeneralType('fixed text', $read->length);
            yield new GeneralType('bytes', $read->length);
            yield new GeneralType('fixed bytes', $read->length);
            if ($read->length <= 12 && $read->length >= (int) $read->scale) {
                $most = TypeWords::greatest($read->length, (int) $read->scale);
                yield new GeneralType('number', from: '-'.$most, to: $most);
            }
            yield new GeneralType('number', $read->length, decimals: (int) $read->scale);
        }
        if ([] !== $read->members) {
            yield new GeneralType($read->several ? 'any of' : 'one of', members: $read->members);
        }
        yield new GeneralType('number');
    }

    protected function anyText(): string
    {
        return static::PLAIN['long text'];
    }

    protected function textUpTo(int $length): Native
    {
        return $length > static::MOST_TEXT
            ? new Native(
                static::PLAIN['long text'],
                '',
                \sprintf('No text that says its length may have more than %d characters here: it has any length.', static::MOST_TEXT),
            )
            : new Native(\sprintf(static::TEXT, max(1, $length)));
    }

    protected function fixedText(int $length): Native
    {
        return $length > 255 ? $this->textUpTo($length)->with($this->length().' = '.$length) : new Native(\sprintf(static::FIXED, $length));
    }

    /** How long a text is, of %s. */
    protected function length(): string
    {
        return 'CHAR_LENGTH(%s)';
    }

    protected function plain(string $kind): Native
    {
        return new Native(static::PLAIN[$kind]);
    }

    protected function time(GeneralType $type): Native
    {
        return new Native(\sprintf(static::TIMES[$type->kind], null === $type->decimals || 0 === $type->decimals ? static::NO_DECIMALS : "($type->decimals)"));
    }

    protected function whole(GeneralType $type): Native
    {
        $from = $type->from;
        $to = $type->to;
        if (null === $from || null === $to) {
            return $this->sized($type->length ?? 32, $from, $to);
        }
        foreach (static::WHOLE as $bits => $name) {
            if (isset(static::UNSIGNED[$bits]) && '0' === $from && self::most($bits) === $to) {
                return new Native(static::UNSIGNED[$bits]);
            }
        }
        foreach (static::WHOLE as $bits => $name) {
            $least = self::least($bits);
            $most = self::most($bits - 1);
            if ($bits >= 16 && self::atMost($least, $from) && self::atMost($to, $most)) {
                return new Native($name, self::between($from === $least ? null : $from, $to === $most ? null : $to));
            }
        }

        return new Native(
            \sprintf(static::NUMBER, min(static::MOST_DIGITS, max(\strlen(ltrim($from, '-')), \strlen(ltrim($to, '-')))), 0),
            self::between($from, $to),
        );
    }

    /** That of so many bits, or of the next more that there are. */
    protected function sized(int $bits, ?string $from, ?string $to): Native
    {
        $there = array_filter(array_keys(static::WHOLE), static fn (int $each): bool => $each >= $bits);
        $found = [] === $there ? max(array_keys(static::WHOLE)) : min($there);
        if ('0' === $from && null === $to && isset(static::UNSIGNED[$found])) {
            return new Native(static::UNSIGNED[$found]);
        }

        return new Native(static::WHOLE[$found], self::between($from, $to), $found < $bits ? 'No whole number is that large here.' : '');
    }

    protected function number(GeneralType $type): Native
    {
        if (null !== $type->from && null !== $type->to) {
            $decimals = max($type->decimals ?? 0, self::decimals($type->from), self::decimals($type->to));
            $digits = max(self::digits($type->from), self::digits($type->to)) + $decimals;
            $most = TypeWords::greatest($digits, $decimals);
            $native = $this->ofDigits(max(1, $digits), $decimals);

            return $native->with(self::between('-'.$most === $type->from ? null : $type->from, $most === $type->to ? null : $type->to));
        }
        if (null === $type->length && null === $type->decimals) {
            return (new Native(static::ANY_NUMBER))->with(self::between($type->from, $type->to));
        }

        return $this->ofDigits($type->length ?? min(static::MOST_DIGITS, 18), $type->decimals ?? 0)->with(self::between($type->from, $type->to));
    }

    protected function ofDigits(int $digits, int $decimals): Native
    {
        $warning = $digits > static::MOST_DIGITS ? \sprintf('A number has %d digits at most here.', static::MOST_DIGITS) : '';

        return new Native(\sprintf(static::NUMBER, min($digits, static::MOST_DIGITS), min($decimals, static::MOST_DIGITS)), '', $warning);
    }

    /** @param list<string> $members */
    protected function oneOf(array $members): Native
    {
        $longest = max([1, ...array_map(mb_strlen(...), $members)]);

        return $this->textUpTo($longest)->with($this->among($members));
    }

    /** @param list<string> $members */
    protected function anyOf(array $members): Native
    {
        return $this->textUpTo(max(1, array_sum(array_map(mb_strlen(...), $members)) + \count($members)))
            ->with('', 'Values of which there may be several at once stand in one text, with commas between: nothing here holds them to the list.');
    }

    /** @param list<string> $members */
    protected function among(array $members): string
    {
        $sql = $this->dialect->writing();
        $said = array_map(static fn (string $member): string => str_replace('%', '%%', $sql->literal($member)), $members);

        return [] === $members ? '' : '%s IN ('.implode(', ', $said).')';
    }

    protected static function between(?string $from, ?string $to): string
    {
        return match (true) {
            null !== $from && null !== $to => "%s BETWEEN $from AND $to",
            null !== $from => "%s >= $from",
            null !== $to => "%s <= $to",
            default => '',
        };
    }

    private static function digits(string $number): int
    {
        return \strlen(ltrim(explode('.', ltrim($number, '-'))[0], '0'));
    }

    private static function decimals(string $number): int
    {
        return \strlen(explode('.', $number, 2)[1] ?? '');
    }

    private static function least(int $bits): string
    {
        return '-'.([8 => '128', 16 => '32768', 32 => '2147483648', 64 => '9223372036854775808'][$bits] ?? '0');
    }

    /** The greatest number of so many bits, of which one more may be the sign. */
    private static function most(int $bits): string
    {
        return [
            7 => '127', 8 => '255', 15 => '32767', 16 => '65535', 31 => '2147483647', 32 => '4294967295', 63 => '9223372036854775807',
            64 => '18446744073709551615',
        ][$bits] ?? '0';
    }

    /** Whole numbers of any length, compared as people do. */
    public static function atMost(string $a, string $b): bool
    {
        $x = ltrim(ltrim($a, '-'), '0');
        $y = ltrim(ltrim($b, '-'), '0');
        $negative = [str_starts_with($a, '-') && '' !== $x, str_starts_with($b, '-') && '' !== $y];
        if ($negative[0] !== $negative[1]) {
            return $negative[0];
        }
        $smaller = [\strlen($x), $x] <=> [\strlen($y), $y];

        return $negative[0] ? $smaller >= 0 : $smaller <= 0;
    }
}
