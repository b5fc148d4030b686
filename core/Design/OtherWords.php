<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/**
 * What people write of an attribute in other words, those of SQL among them, as the outline says it. What it cannot say is answered with the words that can.
 */
final class OtherWords
{
    private const FIGURE = '[-−]?\d[\d,]*(?:\.\d+)?';

    /** Type in other words → as the outline says it. */
    private const TYPES = [
        '/^n?char(?:acter)? ?\(\s*(?<n>\d+)(?: (?:char|byte)s?)?\s*\)$/' => 'text of %n',
        '/^(?:n?var)?char(?:acter)?2? ?(?:varying ?)?\(\s*(?<n>\d+)(?: (?:char|byte)s?)?\s*\)$/' => 'text up to %n',
        '/^string ?\(\s*(?<n>\d+)\s*\)$/' => 'text up to %n',
        '/^(?:n?varchar2?|nvarchar|string|character varying)$/' => 'text',
        '/^(?:clob|tinytext|mediumtext|longtext|free text)$/' => 'long text',
        '/^(?:dec(?:imal)?|num(?:eric)?|number) ?\(\s*(?<n>\d+)\s*,\s*(?<m>\d+)\s*\)$/' => 'number of %n digits with %m decimals',
        '/^(?:dec(?:imal)?|num(?:eric)?|number) ?\(\s*(?<n>\d+)\s*\)$/' => 'number of %n digits',
        '/^(?:int|int4|integer number|number without decimals)(?: ?\(\d+\))?$/' => 'whole number',
        '/^(?:bigint|int8|long)(?: ?\(\d+\))?$/' => 'large whole number',
        '/^(?:smallint|int2|mediumint)(?: ?\(\d+\))?$/' => 'small whole number',
        '/^tinyint(?: ?\(\d+\))?$/' => 'tiny whole number',
        '/^(?:float|double|real|double precision|float8|float4)$/' => 'approximate number',
        '/^(?:bool|flag|true or false|true\/false|y\/n)$/' => 'yes or no',
        '/^(?:blob|bytea|binary|varbinary)$/' => 'bytes',
        '/^(?:jsonb)$/' => 'JSON document',
        '/^calendar date$/' => 'date',
        '/^(?:timestamptz|timestamp with time zone)$/' => 'instant',
        '/^(?:timestamp without time zone|date time|date\/time)$/' => 'date and time',
        '/^(?<t>(?:tiny |small |large )?whole number|number) between (?<a>F) and (?<b>F)$/' => '%t from %a to %b',
        '/^number with (?<m>\d+) decimals? from (?<a>F) to (?<b>F)$/' => 'number from %a to %b with %m decimals',
        '/^text,? (?:of )?(?:at most|max(?:imum)?|no more than) (?<n>\d+)(?: characters?| letters?)?$/' => 'text up to %n',
        '/^(?<n>\d+) (?:characters|letters|signs)$/' => 'text of %n',
        '/^(?:up to|at most) (?<n>\d+) (?:characters|letters|signs)$/' => 'text up to %n',
    ];

    /** Clause in other words → those of the outline, with a line between several. */
    private const CLAUSES = [
        '/^(?:not null|mandatory|obligatory|compulsory|must be given|must not be empty|not empty|always given|is required|never empty)$/' => 'required',
        '/^(?:null|nullable|optional|not required|can be empty|may be missing|may be null|can be null|or nothing|if known)$/' => 'may be empty',
        '/^(?:unique key|is unique|must be unique|one of its kind|no two alike|no duplicates)$/' => 'unique',
        '/^(?:auto[_ ]?increment|identity|serial|generated (?:always|by default) as identity|numbered|counts up)$/' => 'numbered by the database',
        '/^(?:personal data|private|confidential)$/' => 'personal',
        '/^default null$/' => 'may be empty',
        '/^default (?:current_timestamp|now|now\(\)|current_timestamp\(\)|sysdate)$/' => 'set when the row is made',
        '/^on update (?:current_timestamp|now\(\))$/' => 'set when the row changes',
        "/^(?:default|defaults to|by default|normally|usually|initially) '(?<v>[^']*)'$/" => '%v unless given',
        '/^(?:default|defaults to|by default|normally|usually|initially) (?<v>.+)$/' => '%v unless given',
        "/^'?(?<v>[^']+?)'? by default$/" => '%v unless given',
        '/^(?:from|between) (?<a>F) (?:to|and) (?<b>F)$/' => "at least %a\nat most %b",
        '/^(?:min(?:imum)?:?|>=|from|no less than|not less than|not under) ?(?<a>F)$/' => 'at least %a',
        '/^(?<a>F) or more$/' => 'at least %a',
        '/^(?:max(?:imum)?:?|<=|up to|no more than|not more than|not over) ?(?<a>F)$/' => 'at most %a',
        '/^(?<a>F) or less$/' => 'at most %a',
        '/^(?:>|over|above|greater than) ?(?<a>F)$/' => 'more than %a',
        '/^(?:<|under|below|smaller than) ?(?<a>F)$/' => 'less than %a',
        '/^(?:positive|more than nothing)$/' => 'more than 0',
        '/^(?:not negative|non-negative|never negative)$/' => 'at least 0',
        '/^(?:comment|description|note|means|i\.e\.) ?:? (?<v>.+)$/' => 'meaning %v',
        '/^(?:unit|in units of|given in) ?:? (?<v>.+)$/' => 'measured in %v',
        '/^(?:was|was called|previously|before it was|renamed from|used to be) (?<v>.+)$/' => 'formerly %v',
    ];

    /** What no line of an attribute can say → where it is said. */
    private const ELSEWHERE = [
        '/^(?:primary key|pk|is the key|key|identifier)$/' => 'A key stands on a line of its own below the attributes: “told apart by %name”.',
        '/^(?:references|foreign key|fk|leads to|belongs to|refers to)\b/' => 'What leads to another thing is a sentence at the margin: “each Visit goes to '
            .'exactly one Station”. The attribute for it comes by itself.',
        '/^check\b/' => 'A condition of SQL stands on a line of its own below the attributes: “always "%name > 0"”.',
        '/^(?:not )?(?:before|after) (?:today|now|tomorrow|yesterday)$|^(?:not )?in the (?:future|past)$/' => 'What day it is changes, and no table holds its '
            .'rows to that. Say it in words: meaning "not after the day on which it is written".',
        '/^(?:index|indexed)$/' => 'What is looked up stands on a line of its own below the attributes: “looked up by %name”.',
    ];

    /** Where another clause begins without a comma. */
    private const BEGINS = '/(?<!\bnot)\s+(?=(?:not null|null\b|default\s|primary key|unique\b|required\b|optional\b|auto_?increment'
        .'|references\s|check ?\(|mandatory\b))/iu';

    /** Types that say two figures with a comma between, which a line would take apart. */
    private const COMMA = '/^(?:(?:dec(?:imal)?|num(?:eric)?|number) ?\(\s*\d+|(?:enum|set) ?\([^)]*)$/i';

    /**
     * @param list<Piece> $pieces
     *
     * @return list<Piece>
     */
    public static function joined(array $pieces): array
    {
        $all = [];
        foreach (self::apart($pieces) as $piece) {
            $last = array_pop($all);
            if (null !== $last && 1 === preg_match(self::COMMA, $last->text)) {
                $length = $piece->at + $piece->length - $last->at;
                $piece = new Piece($last->text.', '.$piece->text, $last->quotes, $last->at, $length, $last->before);
            } elseif (null !== $last) {
                $all[] = $last;
            }
            $all[] = $piece;
        }
        $second = $all[1] ?? null;
        if (null !== $second && 1 === preg_match('/^(enum|set) ?\((.+)\)$/is', $second->text, $m) && [] === $second->quotes) {
            if (isset($all[2])) {
                $all[2] = new Piece($all[2]->text, $all[2]->quotes, $all[2]->at, $all[2]->length, ';');
            }
            array_splice($all, 1, 1, self::listed($second, 'set' === strtolower($m[1]) ? 'any of ' : 'one of ', $m[2]));
        }

        return $all;
    }

    /**
     * Values that stand in brackets, as the outline has them: up to a semicolon.
     *
     * @return list<Piece>
     */
    private static function listed(Piece $piece, string $words, string $values): array
    {
        preg_match_all("/\\s*(?:'((?:[^']|'')*)'|([^',]+))\\s*(?:,|$)/u", $values, $found, \PREG_SET_ORDER);
        $pieces = [];
        foreach ($found as $n => $m) {
            $value = str_replace("''", "'", '' !== ($m[2] ?? '') ? trim($m[2]) : $m[1] ?? '');
            $pieces[] = new Piece((0 === $n ? $words : '').Piece::MARK, [$value], $piece->at, $piece->length, 0 === $n ? $piece->before : ',');
        }

        return $pieces;
    }

    /**
     * A type with words of SQL behind it, and no comma between.
     *
     * @param list<Piece> $pieces
     *
     * @return list<Piece>
     */
    private static function apart(array $pieces): array
    {
        $second = $pieces[1] ?? null;
        $texts = null === $second || [] !== $second->quotes ? [] : preg_split(self::BEGINS, $second->text);
        if (null === $second || false === $texts || \count($texts) < 2) {
            return $pieces;
        }
        $of = static fn (string $text): Piece => new Piece(trim($text), [], $second->at, $second->length, $second->before);
        if (null === TypeReader::of($of($texts[0])) && null === self::type($of($texts[0]))) {
            return $pieces;
        }

        return [$pieces[0], ...array_map($of, $texts), ...\array_slice($pieces, 2)];
    }

    /** A type; null where it is none. */
    public static function type(Piece $piece): ?Piece
    {
        return self::said($piece, self::TYPES)[0] ?? null;
    }

    /**
     * What else is said of an attribute.
     *
     * @return list<Piece> none where it says nothing that is understood
     *
     * @throws NotUnderstood where another line says it
     */
    public static function clauses(Piece $piece, string $name): array
    {
        foreach (self::ELSEWHERE as $pattern => $answer) {
            if (1 === preg_match($pattern.'iu', $piece->text)) {
                throw new NotUnderstood(str_replace('%name', $name, $answer), $piece);
            }
        }

        return self::said($piece, self::CLAUSES);
    }

    /**
     * @param array<string, string> $known
     *
     * @return list<Piece>
     */
    private static function said(Piece $piece, array $known): array
    {
        foreach ($known as $pattern => $canonical) {
            if (1 !== preg_match(str_replace('F)', self::FIGURE.')', $pattern).'iu', $piece->text, $m)) {
                continue;
            }
            foreach ($m as $group => $value) {
                $canonical = \is_string($group) ? str_replace('%'.$group, trim($value), $canonical) : $canonical;
            }

            return array_map(
                static fn (string $text): Piece => new Piece($text, $piece->quotes, $piece->at, $piece->length, $piece->before),
                explode("\n", $canonical),
            );
        }

        return [];
    }
}
