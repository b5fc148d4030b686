<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Join\Namebook;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Unit;
use Fasti\Core\Wording\Units;

/** A name in words that people read, with what some of the words say by their place. */
final readonly class FieldName
{
    /** Words that keep their letters in a sentence. */
    private const CAPITALS = '/^(?:ID|UUID|GUID|IBAN|ISBN|IP|JSON|XML|HTML|PDF|GPS|UTC|ETA|SKU|SSN|CRS|URI|VAT)$/';

    /**
     * @param list<string> $raw    the words as they stand, in small letters
     * @param list<string> $words  long forms, without the ending of a key that leads elsewhere, the unit, and what says that it is a flag
     * @param ?Unit        $unit   that the name ends in
     * @param string       $ending of a key: id, code, no
     * @param string       $asks   is, has, can: what makes it a yes or a no
     * @param string       $folded long forms run together: equal for fields of the same words
     * @param list<string> $expanded short forms that were read as longer ones: "stn: station"
     */
    private function __construct(
        public array $raw,
        public array $words,
        public ?Unit $unit,
        public string $ending,
        public string $asks,
        public string $folded,
        public array $expanded,
        public bool $known,
    ) {
    }

    public static function ofTable(string $name, Abbreviations $abbreviations): self
    {
        $raw = NameWords::of($name);
        while (\count($raw) > 1 && (\in_array($raw[0], ['tbl', 'tb', 'tab', 'dim', 'fact', 'fct', 'stg', 'vw', 'rel', 'lkp', 'lu', 'fk'], true)
            || 1 === preg_match('/^[b-df-hj-z]$/', $raw[0]))) {
            array_shift($raw);
        }
        // `device_v11` is a device, whatever the version of the schema.
        if (\count($raw) > 2 && 'v' === $raw[\count($raw) - 2] && ctype_digit($raw[\count($raw) - 1])) {
            $raw = \array_slice($raw, 0, -2);
        }
        // `party_party` is a party.
        $half = intdiv(\count($raw), 2);
        if ($half > 0 && \array_slice($raw, 0, $half) === \array_slice($raw, $half)) {
            $raw = \array_slice($raw, $half);
        }
        [$words, $expanded, $known] = self::long($raw, $abbreviations);

        return new self($raw, $words, null, '', '', implode('', $words), $expanded, $known);
    }

    /** @param bool $leads a join leads away from the field */
    public static function ofColumn(string $name, Table $table, Abbreviations $abbreviations, TypeFamily $family, bool $leads): self
    {
        // Of a member of documents, the name is what stands after the last dot.
        $last = preg_replace('/^.*\.(?=[^.]+$)/', '', $name) ?? $name;
        $raw = NameWords::of('' === trim($last, '[]*{} ') ? $name : $last);
        // What all fields of the table begin with says nothing of this one.
        $before = str_contains($name, '.') ? '' : self::before($table);
        $told = '' !== $before && \strlen($name) > \strlen($before) && 0 === strncasecmp($name, $before, \strlen($before))
            ? NameWords::of(substr($name, \strlen($before))) : [];
        [$asks, $left] = self::asking([] === $told ? $raw : $told, $family, $leads);
        $measured = $family->isNumeric() || TypeFamily::Text === $family || TypeFamily::Other === $family;
        $found = $measured && !$leads ? Units::atEnd($left) : null;
        if (null !== $found) {
            $left = \array_slice($left, 0, -$found[1]);
            // What stands before a unit only leads to it: "fade in seconds".
            if (\count($left) > 1 && 'in' === $left[\count($left) - 1]) {
                array_pop($left);
            }
        }
        [$ending, $left] = self::leading($left, $leads);
        [$words, $expanded, $known] = self::long($left, $abbreviations);
        [$folded] = self::long($raw, $abbreviations);

        return new self($raw, $words, $found[0] ?? null, $ending, $asks, implode('', $folded), $expanded, $known);
    }

    /** What all fields of a table begin with, save those that hold keys, which may be others'. */
    public static function before(Table $table): string
    {
        // Asked once for each field of a table.
        /** @var \WeakMap<Table, string>|null $known */
        static $known = null;
        $known ??= new \WeakMap();
        $before = $known[$table] ?? null;
        if (!\is_string($before)) {
            $before = Namebook::prefix($table);
            $other = '' === $before ? [] : array_filter($table->columns, static function (Column $column) use ($before): bool {
                $words = NameWords::of($column->name);

                return 0 !== strncasecmp($column->name, $before, \strlen($before)) && !NameWords::isSureEnding($words[\count($words) - 1] ?? '');
            });
            $known[$table] = $before = [] === $other ? $before : '';
        }

        return $before;
    }

    /**
     * The word by which a name asks whether something is so.
     *
     * @param list<string> $left
     *
     * @return array{string, list<string>} the word, and what is left
     */
    private static function asking(array $left, TypeFamily $family, bool $leads): array
    {
        if (\count($left) < 2) {
            return ['', $left];
        }
        if (\in_array($left[0], ['is', 'has', 'can', 'was', 'should', 'does', 'flag', 'did', 'are'], true) && TypeFamily::Time !== $family) {
            return [$left[0], \array_slice($left, 1)];
        }
        $last = $left[\count($left) - 1];
        $flagged = \in_array($last, ['flag', 'yn', 'ind', 'indicator', 'bool'], true)
            && \in_array($family, [TypeFamily::Flag, TypeFamily::Text, TypeFamily::Whole], true);

        return $leads || !$flagged || ('flag' === $last && TypeFamily::Flag !== $family) ? ['', $left] : ['is', \array_slice($left, 0, -1)];
    }

    /**
     * The word by which a name tells that it leads somewhere.
     *
     * @param list<string> $left
     *
     * @return array{string, list<string>} the word, and what is left
     */
    private static function leading(array $left, bool $leads): array
    {
        $last = $left[\count($left) - 1] ?? '';
        if (\count($left) > 1 && NameWords::isKeyEnding($last)) {
            return [$last, $leads || \in_array($last, ['fk', 'sk'], true) ? \array_slice($left, 0, -1) : $left];
        }
        if ($leads && \count($left) > 1 && NameWords::isBefore($left[0])) {
            return [$left[0], \array_slice($left, 1)];
        }

        return ['', $leads && 1 === \count($left) ? (NameWords::head($left) ?: $left) : $left];
    }

    /** "Barrier survey": as people write it. */
    public function title(): string
    {
        $said = $this->phrase();

        return '' === $said ? '' : mb_strtoupper(mb_substr($said, 0, 1)).mb_substr($said, 1);
    }

    /** In a sentence: "barrier survey". */
    public function phrase(): string
    {
        return implode(' ', $this->words);
    }

    public function last(): string
    {
        return $this->words[\count($this->words) - 1] ?? '';
    }

    /**
     * The words without those of the row itself: of `CostumeDesc` in Costume, "description".
     *
     * @return list<string>
     */
    public function without(string $noun): array
    {
        $own = NameWords::singular(Naming::words($noun));
        $words = $this->words;
        $n = \count($own);
        if ($n > 0 && \count($words) > $n && NameWords::singular(\array_slice($words, 0, $n)) === $own) {
            return \array_slice($words, $n);
        }
        $last = $own[$n - 1] ?? '';
        if ($n > 1 && \count($words) > 1 && $last === NameWords::singular([$words[0]])[0]) {
            return \array_slice($words, 1);
        }

        return $words;
    }

    /**
     * @param list<string> $words
     *
     * @return array{list<string>, list<string>, bool} words, what was read as something longer, and whether all of them are words
     */
    private static function long(array $words, Abbreviations $abbreviations): array
    {
        $long = $expanded = [];
        $known = true;
        foreach ($words as $word) {
            [$said, $from] = $abbreviations->long($word);
            if ('' !== $from && mb_strtolower($said) !== $word) {
                $expanded[] = "$word: $said";
            }
            $known = $known && ('' !== $from || self::isWord($word));
            foreach (explode(' ', $said) as $part) {
                $long[] = 1 === preg_match(self::CAPITALS, $part) ? $part : mb_strtolower($part);
            }
        }

        return [$long, $expanded, $known];
    }

    /** Whether it can be said: it has a vowel, is long enough, and is no mere number. */
    private static function isWord(string $word): bool
    {
        return \strlen($word) >= 3 && 1 === preg_match('/[aeiouyäöüáéíóúàèìòùâêîôû]|[^\x00-\x7F]/u', $word)
            || \in_array($word, ['of', 'in', 'on', 'at', 'by', 'to', 'up', 'or', 'as', 'no', 'is', 'it', 'we', 'if', 'do', 'an', 'a'], true)
            || ctype_digit($word);
    }
}
