<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;

/** Lines of attributes: their types, and what is said of them. */
final class AttributeReader
{
    private const PLAIN = [
        'required' => ['required' => true],
        'may be empty' => ['required' => false, 'mayBeEmpty' => true],
        'unique' => ['unique' => true],
        'personal' => ['personal' => true],
        'set when the row is made' => ['whenMade' => true],
        'set when the row changes' => ['whenChanged' => true],
        'numbered by the database' => ['numbered' => true],
    ];
    private const WORDED = [
        'meaning' => 'meaning', 'measured in' => 'unit', 'column' => 'column', 'sorted as' => 'sorted', 'character set' => 'charset',
    ];

    public function __construct(private readonly OutlineReader $all)
    {
    }

    /** @param list<Piece> $pieces */
    public function attribute(array $pieces): Attribute
    {
        if (!$pieces[0]->isQuoted() && 1 === preg_match(Names::SAYS_OF_ANOTHER, $pieces[0]->text)) {
            throw new NotUnderstood(
                \sprintf(
                    '“%s” says something of an attribute: it stands on that attribute’s line, after a comma. An attribute that is called so is quoted.',
                    $pieces[0]->value(),
                ),
                $pieces[0],
                ['"'.$pieces[0]->value().'"'],
            );
        }
        $name = $this->all->called->name($pieces[0]);
        $pieces = OtherWords::joined($pieces);
        $set = $limits = [];
        $type = null;
        for ($i = 1; $i < \count($pieces); ++$i) {
            $piece = $pieces[$i];
            $text = $piece->text;
            if ('' === $text) {
                throw new NotUnderstood('Between two commas stands nothing.', $piece);
            }
            $known = null;
            if (null === $type && null !== ($m = $piece->match('/^(?:any number of )?(one|any) of (.*)$/ui')) && !str_starts_with($text, 'any number of t')) {
                $known = $this->values(mb_strtolower($m[0]).' of', $m[1], $pieces, $i);
            } elseif (null === $type && 1 === $i) {
                $bare = new Piece(
                    preg_replace('/^any number of (?=\S)/u', '', $text) ?? $text, $piece->quotes, $piece->at, $piece->length, $piece->before,
                );
                $other = TypeReader::of($bare) ?? OtherWords::type($bare);
                $known = $other instanceof Piece ? TypeReader::of($other) : $other;
            }
            if (null !== $known) {
                $type = $known;
                if (1 === preg_match('/^any number of (?=\S)/u', $text)) {
                    $set['several'] = true;
                }
                continue;
            }
            try {
                $clauses = $this->clauses($piece, $name);
                $wrong = [] === $clauses ? self::notUnderstood($piece, $name, null === $type && 1 === $i) : null;
            } catch (NotUnderstood $e) {
                // What else is said of the attribute stands.
                $wrong = $e;
                $clauses = [];
            }
            if (null !== $wrong) {
                $this->all->fault($wrong, $this->all->lines[$this->all->line]);
            }
            foreach ($clauses as $clause) {
                if ($clause instanceof Limit) {
                    $limits[] = $clause;
                } else {
                    $set = array_merge($set, $clause);
                }
            }
        }

        return (new Attribute($name, $type ?? new GeneralType(''), limits: $limits, line: $this->all->line + 1))->with(...$set);
    }

    /** @return list<array<string, mixed>|Limit> none where it is not understood */
    private function clauses(Piece $piece, string $name): array
    {
        $clause = $this->attributeClause($piece);
        if ($clause instanceof Limit && !$clause->value) {
            // Another attribute, or a word that is none.
            OtherWords::clauses($piece, $name);
        }
        if (null !== $clause) {
            return [$clause];
        }
        $clauses = array_map($this->attributeClause(...), OtherWords::clauses($piece, $name));

        return array_values(array_filter($clauses, static fn (array|Limit|null $one): bool => null !== $one));
    }

    private static function notUnderstood(Piece $piece, string $name, bool $typed): NotUnderstood
    {
        $near = $typed ? TypeReader::near($piece->text) : self::nearClauses($piece->text);
        $meant = [] === $near ? '' : ' Did you mean '.OutlineNames::or($near).'?';
        if (!$typed) {
            return new NotUnderstood(\sprintf('“%s” says nothing of “%s” that is understood.%s', $piece->value(), $name, $meant), $piece, $near);
        }
        $types = ' A type is said in words (text up to 80, whole number, date …), or as the engine writes it, in quotation marks.';

        return new NotUnderstood(\sprintf('“%s” is no type.%s', $piece->value(), '' === $meant ? $types : $meant), $piece, $near);
    }

    /**
     * The values of a list: all that follow, up to a semicolon.
     *
     * @param list<Piece> $pieces
     */
    private function values(string $kind, string $first, array $pieces, int &$i): GeneralType
    {
        $piece = $pieces[$i];
        if (1 === preg_match('/^(?:any number of )?(?:one|any) of the /ui', $piece->text)) {
            return new GeneralType($kind, list: $this->all->called->named(substr($first, 4)));
        }
        $members = '' === trim($first) && !str_contains($piece->text, Piece::MARK) ? [] : [$first];
        while (isset($pieces[$i + 1]) && ';' !== $pieces[$i + 1]->before) {
            $next = $pieces[++$i];
            if (\in_array($next->text, ['required', 'unique', 'personal', 'may be empty'], true)) {
                throw new NotUnderstood(
                    \sprintf('“%s” would be one of the values here. A semicolon ends them; a value that is called so is quoted.', $next->text),
                    $next,
                    ['; '.$next->text, '"'.$next->text.'"'],
                );
            }
            $members[] = $next->value();
        }
        if ([] === $members) {
            throw new NotUnderstood('Which values may it have? They stand here with commas between, or as “one of the” and the name of a list.', $piece);
        }

        return new GeneralType($kind, members: array_values(array_unique($members)));
    }

    /** @return array<string, mixed>|Limit|null */
    private function attributeClause(Piece $piece): array|Limit|null
    {
        $text = $piece->text;
        if (isset(self::PLAIN[$text])) {
            return self::PLAIN[$text];
        }
        if (null !== ($m = $piece->match('/^formerly (.+)$/us'))) {
            return ['formerly' => $m[0]];
        }
        if (null !== ($m = $piece->match('/^computed as (») for rows that are there$/u'))) {
            return ['filled' => $m[0], 'filledSql' => true];
        }
        if (null !== ($m = $piece->match('/^(.+) for rows that are there$/us'))) {
            return ['filled' => 'empty text' === $m[0] && !$piece->isQuoted() ? '' : self::plainFigure($m[0], $piece)];
        }
        if (null !== ($m = $piece->match('/^computed as (») unless given$/u'))) {
            return ['given' => $m[0], 'givenSql' => true];
        }
        if (null !== ($m = $piece->match('/^computed as (»)( when read)?$/u'))) {
            return ['computed' => $m[0], 'whenRead' => '' !== $m[1]];
        }
        if (null !== ($m = $piece->match('/^(.+) unless given$/us'))) {
            return ['given' => 'empty text' === $m[0] && !$piece->isQuoted() ? '' : self::plainFigure($m[0], $piece)];
        }
        if (null !== ($m = $piece->match('/^(not before|not after|before|after|at least|at most|more than|less than) (.+)$/us'))) {
            $value = 1 === preg_match('/^[-−]?\d[\d,.]*$/u', $m[1]) || str_contains($text, Piece::MARK) || 1 === preg_match('/^\d{4}-\d\d-\d\d/', $m[1]);

            return new Limit($m[0], $value ? TypeReader::figure($m[1]) : $m[1], $value);
        }
        if (null !== ($m = $piece->match('/^(meaning|measured in|column|sorted as|character set) (.+)$/us'))) {
            return [self::WORDED[$m[0]] ?? '' => $m[1]];
        }

        return null;
    }

    private static function plainFigure(string $value, Piece $piece): string
    {
        return 1 === preg_match('/^[-−]?\d[\d,]*(\.\d+)?$/u', $value) && !str_contains($piece->text, Piece::MARK) ? TypeReader::figure($value) : $value;
    }

    /** @return list<string> */
    private static function nearClauses(string $text): array
    {
        $known = [
            'required', 'may be empty', 'unique', 'personal', 'set when the row is made', 'set when the row changes', 'numbered by the database',
            'unless given', 'computed as',
            'not before', 'not after', 'at least', 'at most', 'meaning', 'measured in', 'column',
        ];
        $near = [];
        foreach ($known as $word) {
            similar_text(mb_strtolower($text), $word, $alike);
            if ($alike > 55) {
                $near[$word] = $alike;
            }
        }
        arsort($near);

        return \array_slice(array_map(strval(...), array_keys($near)), 0, 2);
    }
}
