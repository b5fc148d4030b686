<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\GeneralType;

/**
 * Reads an outline, line by line. A line that is not understood is kept as a fault with its place, and the others are read all the
 * same. docs/outline.md has an example of each line.
 */
final class OutlineReader
{
    private const COUNT = '/^(.+?) (exactly one|at most one|one or more|at least one|any number of'
        .'|exactly [\d,]+|at most [\d,]+|at least [\d,]+|[\d,]+ or more|[\d,]+ to [\d,]+) (.+)$/su';
    private const BLOCKS = '/^(View|Materialized view|Routine|Type|Statement) »(?: in »)?$/';

    /** What goes beyond is not read: nobody reads such an outline, and every page that shows it would be held up. */
    public const BEYOND = 'The outline is not read from here on';
    public const MOST_THINGS = 5000;
    public const MOST_STATEMENTS = 150000;

    /** With which lines of a thing begin that are no attributes. */
    private const WORDS = ['told', 'looked', 'always', 'trigger', 'table', 'in', 'meaning', 'keyed', 'stored', 'sorted', 'keeps', 'is'];

    /** @var list<Statement> */
    private array $statements = [];
    /** @var list<Fault> */
    private array $faults = [];
    /** @var list<string> */
    private array $lines = [];
    private int $line = 0;
    private int $last = 0;
    /** Number of the statement in whose block we are. */
    private ?int $block = null;

    /** @var array<int, Thing> by number of the statement */
    private array $things = [];
    /** @var array<int, DesignJoin> */
    private array $joins = [];
    /** @var array<int, ValueList> */
    private array $lists = [];
    /** @var array<int, OpenQuestion> */
    private array $questions = [];
    /** @var list<SqlBlock> */
    private array $blocks = [];
    /** @var array<int, DesignView> */
    private array $views = [];
    /** @var array<int, array{Piece, Piece|null, list<Piece>}> halves of sentences, until all things are known */
    private array $halves = [];
    private Design $design;

    public function __construct()
    {
        $this->design = new Design();
    }

    public function read(string $text): Outline
    {
        $this->lines = explode("\n", str_replace(["\r\n", "\r"], "\n", $text));
        for ($i = 0; $i < \count($this->lines); $i = $this->last + 1) {
            $this->line = $this->last = $i;
            if (\count($this->things) >= self::MOST_THINGS || \count($this->statements) >= self::MOST_STATEMENTS) {
                $this->beyond($i);
                break;
            }
            $line = $this->logical($i);
            $trimmed = trim($line);
            if ('' === $trimmed || str_starts_with($trimmed, '--')) {
                $this->statements[] = new Statement(
                    '' === $trimmed ? 'blank' : 'comment',
                    $i,
                    $i,
                    null,
                    1 === preg_match('/^\s/', $line) ? $this->block : null,
                    $trimmed,
                );
                continue;
            }
            $inside = 1 === preg_match('/^\s/', $line);
            try {
                $pieces = Piece::all($line);
                if ([] === $pieces || ([] !== $this->faults && $this->faults[\count($this->faults) - 1]->line === $i + 1)) {
                    // A text that is never closed has been said already.
                    $this->statements[] = new Statement('fault', $i, $this->last, null, $inside ? $this->block : null);
                    continue;
                }
                $inside ? $this->inside($pieces, $line) : $this->heading($pieces, $line);
            } catch (NotUnderstood $e) {
                $this->fault($e, $line);
                while ([] !== $this->statements && $this->statements[\count($this->statements) - 1]->from >= $i) {
                    array_pop($this->statements);
                    $number = \count($this->statements);
                    unset(
                        $this->things[$number],
                        $this->joins[$number],
                        $this->lists[$number],
                        $this->questions[$number],
                        $this->views[$number],
                        $this->halves[$number],
                    );
                }
                $this->statements[] = new Statement('fault', $this->line, $this->last, null, $inside ? $this->block : null);
                if (!$inside) {
                    $this->block = null;
                }
            }
        }
        $this->sentences();

        return new Outline($this->lines, $this->statements, $this->whole(), $this->faults);
    }

    /** The rest of a text that is too long. */
    private function beyond(int $from): void
    {
        $this->faults[] = new Fault(
            $from + 1,
            0,
            mb_strlen($this->lines[$from]),
            \sprintf(
                self::BEYOND.': %s things and %s lines are the most. Make several designs of it.',
                number_format(self::MOST_THINGS),
                number_format(self::MOST_STATEMENTS),
            ),
        );
        $this->statements[] = new Statement('fault', $from, \count($this->lines) - 1, null, null);
    }

    /** A line, with those that follow while a text in $$ is open. */
    private function logical(int $from): string
    {
        $line = $this->lines[$from];
        if (!str_contains($line, '$')) {
            return $line;
        }
        for ($to = $from; $to < \count($this->lines); ++$to) {
            if ($to > $from) {
                $line .= "\n".$this->lines[$to];
            }
            $left = preg_replace(['/"(?:[^"\n]|"")*"/u', '/\$(\w*)\$.*?\$\1\$/su'], '', $line) ?? $line;
            if (1 !== preg_match('/\$\w*\$/', $left)) {
                $this->last = $to;

                return $line;
            }
        }
        $this->faults[] = new Fault(
            $from + 1,
            0,
            mb_strlen($this->lines[$from]),
            'The text that begins with $ here is never closed. It ends where the same signs stand again.',
        );

        return $this->lines[$from];
    }

    private function fault(NotUnderstood $e, string $line): void
    {
        $piece = $e->piece;
        $indent = mb_strlen($line) - mb_strlen(ltrim($line));
        $this->faults[] = new Fault(
            $this->line + 1,
            $piece->at ?? $indent,
            $piece->length ?? max(1, mb_strlen(trim(explode("\n", $line)[0]))),
            $e->getMessage(),
            $e->offers,
        );
    }

    private function add(string $kind, mixed $object = null, ?string $word = null): int
    {
        $this->statements[] = new Statement($kind, $this->line, $this->last, $object, $this->block, $word);

        return \count($this->statements) - 1;
    }

    // ---- lines at the margin ----

    /** @param list<Piece> $pieces */
    private function heading(array $pieces, string $line): void
    {
        $this->block = null;
        $first = $pieces[0] ?? throw new NotUnderstood('A name was expected here.');
        if (null !== ($m = $first->match('/^Design »$/u'))) {
            $this->design = $this->design->with(name: $first->quotes[0], purpose: $this->rest($pieces, 1));
            $this->block = $this->add('design');
        } elseif (null !== ($m = $first->match('/^Values of (.+)$/u'))) {
            $number = $this->add('list');
            $this->lists[$number] = new ValueList($this->named($m[0]), [], $this->line + 1);
            $this->block = $number;
        } elseif (null !== ($m = $first->match('/^Ask (»)(?:,? of (.+))?$/u'))) {
            $rest = [...('' === $m[1] ? [] : [$first->after('/^Ask '.Piece::MARK.',? /u')]), ...\array_slice($pieces, 1)];
            if (isset($rest[0])) {
                $rest[0] = $rest[0]->after('/^of /u');
            }
            $number = $this->add('question');
            $this->questions[$number] = new OpenQuestion($m[0], $this->names($rest), line: $this->line + 1);
            $this->block = $number;
        } elseif (null !== ($m = $first->match(self::BLOCKS)) && null === ($pieces[1] ?? null)?->match('/^over (.+)$/u')) {
            $this->sqlBlock($pieces, $first);
        } elseif (null !== ($m = $first->match('/^View (.+?),? over (.+)$/u'))
            || (null !== ($m = $first->match('/^View (.+)$/u')) && null !== ($over = ($pieces[1] ?? null)?->match('/^over (.+)$/u')))) {
            $number = $this->add('view');
            $this->views[$number] = new DesignView($this->named($m[0]), $this->named($m[1] ?? $over[0] ?? ''), [], '', $this->line + 1);
            $this->block = $number;
        } elseif (1 === preg_match('/^(?:An?|Each|Every) /u', $first->text) && $this->isSentence($line)) {
            $number = $this->add('join');
            $this->halves[$number] = $this->halves($pieces, $line);
            $this->block = $number;
        } else {
            $number = $this->add('thing');
            $this->things[$number] = $this->thing($pieces);
            $this->block = $number;
        }
    }

    private function isSentence(string $line): bool
    {
        return 1 === preg_match(self::COUNT, $line) || str_contains($line, ';') || str_ends_with(rtrim($line), '.');
    }

    /** @param list<Piece> $pieces */
    private function thing(array $pieces): Thing
    {
        $name = $this->name($pieces[0]);
        $thing = new Thing($name, line: $this->line + 1);
        for ($i = 1; $i < \count($pieces); ++$i) {
            $piece = $pieces[$i];
            if (null !== ($m = $piece->match('/^an? kind of (.+)$/ui'))) {
                $thing = $thing->with(kindOf: $this->named($m[0]));
            } elseif (null !== ($m = $piece->match('/^one row per (.+)$/usi'))) {
                // A grain is a sentence, in which commas may stand.
                $grain = $m[0];
                while (isset($pieces[$i + 1]) && ';' !== $pieces[$i + 1]->before && !self::isHeadWord($pieces[$i + 1])) {
                    $grain .= ', '.$pieces[++$i]->value();
                }
                $thing = $thing->with(grain: $grain);
            } elseif (null !== ($m = $piece->match('/^taken from (.+)$/ui'))) {
                $thing = $thing->with(from: $m[0]);
            } else {
                throw new NotUnderstood(
                    \sprintf('“%s” says nothing of a thing. Behind its name stand “one row per …”, “a kind of …” or “taken from …”.', $piece->value()),
                    $piece,
                    ['one row per '.$piece->value()],
                );
            }
        }

        return $thing;
    }

    private static function isHeadWord(Piece $piece): bool
    {
        return 1 === preg_match('/^(?:an? kind of|taken from) /ui', $piece->text);
    }

    /** @param list<Piece> $pieces */
    private function sqlBlock(array $pieces, Piece $first): void
    {
        $m = $first->match('/^(View|Materialized view|Routine|Type|Statement) (»)(?: in (»))?$/') ?? ['', '', ''];
        [$engine, $sql, $early, $meaning, $shows] = ['', null, false, '', []];
        foreach (\array_slice($pieces, 1) as $piece) {
            if ($piece->isQuoted()) {
                $sql = $piece->quotes[0];
            } elseif (null !== ($said = $piece->match('/^for (.+)$/u'))) {
                $engine = $this->engine($said[0], $piece);
            } elseif (null !== $piece->match('/^showing (.+)$/u')) {
                $shows = $this->names([$piece->after('/^showing /u')]);
            } elseif ('before the tables' === $piece->text) {
                $early = true;
            } elseif (null !== ($said = $piece->match('/^meaning (»)$/u'))) {
                $meaning = $said[0];
            } else {
                throw new NotUnderstood('Here stands the engine it is for (“for PostgreSQL”), or its SQL in $$ … $$.', $piece);
            }
        }
        if (null === $sql) {
            throw new NotUnderstood(\sprintf('What the %s does is missing: its SQL stands behind a comma, in $$ … $$.', mb_strtolower($m[0])), $first);
        }
        $block = new SqlBlock(mb_strtolower($m[0]), $m[1], $sql, $m[2], $engine, $early, $meaning, $shows, $this->line + 1);
        $this->blocks[] = $block;
        $this->add('block', $block);
    }

    private function engine(string $label, Piece $piece): string
    {
        foreach (Dialects::all() as $name => $dialect) {
            if ('documents' !== $name && (0 === strcasecmp($label, $dialect->label()) || 0 === strcasecmp($label, $name))) {
                return $name;
            }
        }
        $labels = array_map(static fn ($dialect): string => $dialect->label(), array_diff_key(Dialects::all(), ['documents' => true]));
        throw new NotUnderstood(
            \sprintf('“%s” is no engine that scripts are written for. There are %s.', $label, implode(', ', $labels)),
            $piece,
            array_map(static fn (string $each): string => 'for '.$each, array_values($labels)),
        );
    }

    // ---- lines within a block ----

    /** @param list<Piece> $pieces */
    private function inside(array $pieces, string $line): void
    {
        $kind = null === $this->block ? '' : $this->statements[$this->block]->kind;
        match ($kind) {
            'design' => $this->rule($pieces),
            'thing' => $this->ofThing($pieces),
            'join' => $this->ofJoin($pieces),
            'list' => $this->listed($pieces),
            'question' => $this->answer($pieces),
            'view' => $this->shown($pieces),
            default => throw new NotUnderstood(
                'This line stands further in, but above it is nothing that it could belong to. What begins at the margin is a thing, a sentence or a list.',
            ),
        };
    }

    /** @param list<Piece> $pieces */
    private function rule(array $pieces): void
    {
        $piece = $pieces[0];
        $rules = $this->design->rules;
        if (null !== ($m = $piece->match('/^for (.+)$/u'))) {
            $this->design = $this->design->with(engine: $this->engine($m[0], $piece));
        } elseif (null !== ($m = $piece->match('/^begun from (.+)$/u'))) {
            $this->design = $this->design->with(begun: $m[0]);
        } elseif (null !== ($m = $piece->match('/^sorted as (»)$/u'))) {
            $this->design = $this->design->with(sorted: $m[0]);
        } elseif (null !== ($m = $piece->match('/^tables begin with (»)$/u'))) {
            $this->design = $this->design->with(rules: $rules->with(prefix: $m[0]));
        } elseif (null !== ($m = $piece->match('/^names have at most (\d+) characters$/u'))) {
            $this->design = $this->design->with(rules: $rules->with(longest: max(8, (int) $m[0])));
        } else {
            $called = $filled = null;
            while (\count($pieces) > 1) {
                $last = $pieces[\count($pieces) - 1];
                if (null === $filled && null !== ($m = $last->match('/^computed as (»)$/u'))) {
                    $filled = $m[0];
                } elseif (null === $called && null !== $last->match('/^as (.+)$/u')) {
                    $called = $this->names([$last->after('/^as /u')]);
                } else {
                    break;
                }
                array_pop($pieces);
            }
            $words = $piece->text.implode('', array_map(static fn (Piece $each): string => $each->before.' '.$each->text, \array_slice($pieces, 1)));
            $said = Rules::said($words);
            if (null === $said) {
                $near = [];
                $spoken = explode(' ', mb_strtolower($words));
                foreach (Rules::ALL as [, $settings]) {
                    foreach ($settings as $sentence) {
                        similar_text(mb_strtolower($words), mb_strtolower($sentence), $alike);
                        $near[$sentence] = $alike + 20 * \count(array_intersect(explode(' ', mb_strtolower($sentence)), $spoken));
                    }
                }
                arsort($near);
                throw new NotUnderstood(\sprintf('“%s” is no rule.', $words), $piece, \array_slice(array_map(strval(...), array_keys($near)), 0, 3));
            }
            $this->design = $this->design->with(rules: $this->brought($rules->set($said[0], $said[1]), $said[0], $called, $filled, $piece));
            $this->add('rule', null, $said[0]);

            return;
        }
        $this->add('rule', null, explode(' ', $piece->text)[0]);
    }

    /**
     * What the fields are called that a rule brings, and by what they are filled.
     *
     * @param list<string>|null $called
     */
    private function brought(Rules $rules, string $rule, ?array $called, ?string $filled, Piece $piece): Rules
    {
        $most = Rules::BRING[$rule] ?? 0;
        if (0 === $most && (null !== $called || null !== $filled)) {
            throw new NotUnderstood('This rule brings no fields that could be called or filled otherwise.', $piece);
        }
        if (null !== $called && \count($called) !== $most) {
            throw new NotUnderstood(
                \sprintf('It brings %s: “as %s”.', 1 === $most ? 'one field' : 'two fields', 1 === $most ? 'changes' : 'made at and changed at'),
                $piece,
            );
        }

        return $rules->with(
            called: null === $called ? $rules->called : [$rule => $called] + $rules->called,
            filled: null === $filled ? $rules->filled : [$rule => $filled] + $rules->filled,
        );
    }

    /** @param list<Piece> $pieces */
    private function ofThing(array $pieces): void
    {
        $number = (int) $this->block;
        $thing = $this->things[$number];
        $first = $pieces[0];
        $line = $this->line + 1;
        // Most lines are attributes: those that cannot be anything else are not tried as such.
        $word = explode(' ', $first->text, 2)[0];
        if (!\in_array($word, self::WORDS, true) && !str_contains($first->text, ' depends on ')) {
            $this->known($thing, $pieces);
        } elseif (null !== ($m = $first->match('/^told apart by (.+)$/u'))) {
            $key = $this->identifier($pieces);
            $this->things[$number] = $thing->with(keys: [...$thing->keys, $key]);
            $this->add('identifier', $key);
        } elseif (1 === preg_match('/^looked up (?:as one only )?by ./u', $first->text)) {
            $lookup = $this->lookup($pieces);
            $this->things[$number] = $thing->with(lookups: [...$thing->lookups, $lookup]);
            $this->add('lookup', $lookup);
        } elseif (null !== ($m = $first->match('/^always (»)(?: of (.+))?$/u'))) {
            $always = new Always($m[0], $this->option($pieces, 1, 'kept as'), '' === $m[1] ? null : $this->named($m[1]), $line);
            $this->things[$number] = $thing->with(conditions: [...$thing->conditions, $always]);
            $this->add('condition', $always);
        } elseif (null !== ($m = $first->match('/^trigger (»)$/u'))) {
            $trigger = $this->trigger($pieces, $m[0]);
            $this->things[$number] = $thing->with(triggers: [...$thing->triggers, $trigger]);
            $this->add('clause', $trigger, 'trigger');
        } elseif (null !== ($clause = $this->clause($pieces, $thing))) {
            $this->things[$number] = $clause;
            $this->add('clause', null, $first->text);
        } elseif (null !== ($m = $first->match('/^(.+?) depends on (.+)$/u'))) {
            $on = $this->names([$first->after('/^.+? depends on /u'), ...\array_slice($pieces, 1)]);
            $dependency = new Dependency($this->named($m[0]), [] === $on ? throw new NotUnderstood('On what?', $first) : $on, $line);
            $this->things[$number] = $thing->with(dependencies: [...$thing->dependencies, $dependency]);
            $this->add('dependency', $dependency);
        } else {
            $this->known($thing, $pieces);
        }
    }

    /** @param list<Piece> $pieces */
    private function known(Thing $thing, array $pieces): void
    {
        $attribute = $this->attribute($pieces);
        $known = $thing->attribute($attribute->name);
        if (null !== $known) {
            throw new NotUnderstood(\sprintf('%s has “%s” already, in line %d.', $thing->name, $known->name, $known->line), $pieces[0]);
        }
        $this->things[(int) $this->block] = $thing->with(attributes: [...$thing->attributes, $attribute]);
        $this->add('attribute', $attribute);
    }

    /** @param list<Piece> $pieces what else is said of a thing, in a line of its own */
    private function clause(array $pieces, Thing $thing): ?Thing
    {
        $first = $pieces[0];
        $matched = 1 === \count($pieces) || null !== $first->match('/^(?:keyed by .+)$/u');
        if (!$matched) {
            return null;
        }
        if (null !== ($m = $first->match('/^table (»)(?: in (»))?$/u'))) {
            return $thing->with(table: $m[0], schema: $m[1]);
        }
        if (null !== ($m = $first->match('/^in the schema (»)$/u'))) {
            return $thing->with(schema: $m[0]);
        }
        if (null !== ($m = $first->match('/^meaning (»)$/u'))) {
            return $thing->with(meaning: $m[0]);
        }
        if (null !== ($m = $first->match('/^keyed by (a number of its own|a UUID of its own|what tells it apart|nothing)$/u'))) {
            $keyed = ['a number of its own' => 'number', 'a UUID of its own' => 'uuid', 'what tells it apart' => 'natural', 'nothing' => 'none'][$m[0]] ?? null;

            return $thing->with(keyed: $keyed, keyName: $this->option($pieces, 1, 'kept as') ?? $thing->keyName);
        }
        if (null !== ($m = $first->match('/^stored as (»)$/u'))) {
            return $thing->with(stored: $m[0]);
        }
        if (null !== ($m = $first->match('/^sorted as (»)$/u'))) {
            return $thing->with(sorted: $m[0]);
        }

        return match ($first->text) {
            'keeps its history' => $thing->with(history: true),
            'is valid for a period' => $thing->with(period: true),
            default => null,
        };
    }

    /** @param list<Piece> $pieces */
    private function ofJoin(array $pieces): void
    {
        $number = (int) $this->block;
        $this->halves[$number][2][] = $pieces[0];
        $join = $this->joins[$number] ?? new DesignJoin('', '', new Count(0, null), '', '', new Count(0, null), line: $this->statements[$number]->from + 1);
        $first = $pieces[0];
        $kind = 'clause';
        $object = null;
        if (null !== ($m = $first->match('/^told apart by (.+)$/u'))) {
            $object = $this->identifier($pieces);
            $join = $join->with(keys: [...$join->keys, $object]);
            $kind = 'identifier';
        } elseif ('the same two may be linked again' === $first->text) {
            $join = $join->with(again: true);
        } elseif (null !== ($m = $first->match('/^constraint (»)$/u'))) {
            $join = $join->with(constraint: $m[0]);
        } elseif (null !== ($m = $first->match('/^table (»)$/u'))) {
            $join = $join->with(table: $m[0]);
        } elseif (null !== ($m = $first->match('/^called an? (.+)$/u'))) {
            $join = $join->with(link: $this->named($m[0]));
        } elseif (null !== ($m = $first->match('/^keyed by (a number of its own|a UUID of its own|both ends)$/u'))) {
            $join = $join->with(keyed: ['a number of its own' => 'number', 'a UUID of its own' => 'uuid', 'both ends' => 'both'][$m[0]] ?? null);
        } elseif (1 === preg_match('/^(deleting|changing the key of) /u', $first->text, $act)) {
            $action = $this->action($first);
            $join = 'deleting' === $act[1] ? $join->with(onDelete: $action) : $join->with(onUpdate: $action);
        } else {
            $object = $this->attribute($pieces);
            $join = $join->with(attributes: [...$join->attributes, $object]);
            $kind = 'attribute';
        }
        $this->joins[$number] = $join;
        $this->add($kind, $object, $first->text);
    }

    private function action(Piece $piece): string
    {
        $words = $piece->value();
        $found = match (true) {
            str_ends_with($words, ' is refused in the end') => 'NO ACTION',
            str_ends_with($words, ' is refused') => 'RESTRICT',
            1 === preg_match('/ (?:deletes|changes) (?:its |their |the )?\S/u', $words) => 'CASCADE',
            1 === preg_match('/ empties (?:its |their |the )?\S/u', $words) => 'SET NULL',
            1 === preg_match('/ gives .+ the usual one$/u', $words) => 'SET DEFAULT',
            default => null,
        };

        return $found ?? throw new NotUnderstood(
            'What happens to what belongs to it? It “is refused”, “is refused in the end”, “deletes its …”, “empties its …” or “gives its … the usual one”.',
            $piece,
            ['is refused', 'deletes its …', 'empties its …'],
        );
    }

    /** @param list<Piece> $pieces */
    private function listed(array $pieces): void
    {
        $number = (int) $this->block;
        $list = $this->lists[$number];
        $value = $pieces[0]->value();
        if (isset($list->values[$value])) {
            throw new NotUnderstood(\sprintf('“%s” stands in the list already.', $value), $pieces[0]);
        }
        $this->lists[$number] = new ValueList($list->name, $list->values + [$value => $this->rest($pieces, 1)], $list->line);
        $this->add('value', $value);
    }

    /** @param list<Piece> $pieces */
    private function answer(array $pieces): void
    {
        $number = (int) $this->block;
        $question = $this->questions[$number];
        $m = $pieces[0]->match('/^answer (»)(?: by (.+))?$/u')
            ?? throw new NotUnderstood('Below a question stands its answer: answer "…", by who gave it.', $pieces[0]);
        $by = '' !== $m[1] ? $m[1] : (preg_replace('/^by /', '', $this->rest($pieces, 1)) ?? '');
        $this->questions[$number] = new OpenQuestion($question->text, $question->of, $m[0], $by, $question->line);
        $this->add('answer');
    }

    /** @param list<Piece> $pieces */
    private function shown(array $pieces): void
    {
        $number = (int) $this->block;
        $view = $this->views[$number];
        if (null !== ($m = $pieces[0]->match('/^meaning (»)$/u'))) {
            $this->views[$number] = new DesignView($view->name, $view->of, $view->shows, $m[0], $view->line);
            $this->add('clause', null, 'meaning');

            return;
        }
        $shows = $view->shows;
        foreach ($pieces as $piece) {
            [$shown, $as] = [...$piece->after('/^shows /u')->parts('/ as /u'), null, null];
            $path = array_map(fn (Piece $part): string => $this->named($part->value()), $shown?->parts('/ of (?:its |the )?/u') ?? []);
            $attribute = array_shift($path) ?? throw new NotUnderstood('An attribute was expected here.', $piece);
            $shows[] = ['path' => array_reverse($path), 'attribute' => $attribute, 'as' => null === $as ? '' : $this->named($as->value())];
        }
        $this->views[$number] = new DesignView($view->name, $view->of, $shows, $view->meaning, $view->line);
        $this->add('clause', null, 'shows');
    }

    // ---- attributes ----

    /** @param list<Piece> $pieces */
    private function attribute(array $pieces): Attribute
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
        $name = $this->name($pieces[0]);
        $set = [];
        $limits = [];
        $type = null;
        for ($i = 1; $i < \count($pieces); ++$i) {
            $piece = $pieces[$i];
            $text = $piece->text;
            if ('' === $text) {
                throw new NotUnderstood('Between two commas stands nothing.', $piece);
            }
            if (null === $type && null !== ($m = $piece->match('/^(?:any number of )?(one|any) of (.*)$/ui')) && !str_starts_with($text, 'any number of t')) {
                if (str_starts_with($text, 'any number of ')) {
                    $set['several'] = true;
                }
                $type = $this->values(mb_strtolower($m[0]).' of', $m[1], $pieces, $i);
                continue;
            }
            if (null === $type && 1 === $i) {
                $bare = preg_replace('/^any number of (?=\S)/u', '', $text) ?? $text;
                $known = TypeReader::of(new Piece($bare, $piece->quotes, $piece->at, $piece->length, $piece->before));
                if (null !== $known) {
                    if ($bare !== $text) {
                        $set['several'] = true;
                    }
                    $type = $known;
                    continue;
                }
            }
            $clause = $this->attributeClause($piece);
            if (null === $clause) {
                $near = null === $type && 1 === $i ? TypeReader::near($text) : self::nearClauses($text);
                $this->fault(new NotUnderstood(null === $type && 1 === $i
                    ? \sprintf(
                        '“%s” is no type.%s',
                        $piece->value(),
                        [] === $near ? ' A type is said in words (text up to 80, whole number, date …), or as the engine writes it, in quotation marks.'
                            : ' Did you mean '.self::or($near).'?',
                    )
                    : \sprintf(
                        '“%s” says nothing of “%s” that is understood.%s',
                        $piece->value(),
                        $name,
                        [] === $near ? '' : ' Did you mean '.self::or($near).'?',
                    ), $piece, $near), $this->lines[$this->line]);
                continue;
            }
            if ($clause instanceof Limit) {
                $limits[] = $clause;
            } else {
                $set = array_merge($set, $clause);
            }
        }

        return (new Attribute($name, $type ?? new GeneralType(''), limits: $limits, line: $this->line + 1))->with(...$set);
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
            return new GeneralType($kind, list: $this->named(substr($first, 4)));
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
        $plain = match ($text) {
            'required' => ['required' => true],
            'may be empty' => ['required' => false, 'mayBeEmpty' => true],
            'unique' => ['unique' => true],
            'personal' => ['personal' => true],
            'set when the row is made' => ['whenMade' => true],
            'set when the row changes' => ['whenChanged' => true],
            'numbered by the database' => ['numbered' => true],
            default => null,
        };
        if (null !== $plain) {
            return $plain;
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
            return [
                [
                    'meaning' => 'meaning',
                    'measured in' => 'unit',
                    'column' => 'column',
                    'sorted as' => 'sorted',
                    'character set' => 'charset',
                ][$m[0]] ?? '' => $m[1],
            ];
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

    // ---- keys, indexes, triggers ----

    /** @param list<Piece> $pieces */
    private function identifier(array $pieces): Identifier
    {
        $name = null;
        $said = [$pieces[0]->after('/^told apart by /u')];
        foreach (\array_slice($pieces, 1) as $piece) {
            if (null !== ($m = $piece->match('/^kept as (»)$/u'))) {
                $name = $m[0];
            } else {
                $said[] = $piece;
            }
        }
        $parts = $this->names($said);

        return new Identifier([] === $parts ? throw new NotUnderstood('By what?', $pieces[0]) : $parts, $name, $this->line + 1);
    }

    /** @param list<Piece> $pieces */
    private function lookup(array $pieces): Lookup
    {
        $unique = str_starts_with($pieces[0]->text, 'looked up as one only by ');
        $parts = $sql = [];
        [$name, $method, $where, $comment] = [null, '', null, ''];
        foreach ($pieces as $i => $piece) {
            if ($i > 0 && null !== ($m = $piece->match('/^(kept as|with|where|meaning) (»)$/u'))) {
                match ($m[0]) {
                    'kept as' => $name = $m[1],
                    'with' => $method = $m[1],
                    'where' => $where = $m[1],
                    default => $comment = $m[1],
                };
                continue;
            }
            foreach ((0 === $i ? $piece->after('/^looked up (?:as one only )?by /u') : $piece)->parts() as $part) {
                $m = $part->match('/^(?:the first ([\d,]+) characters of )?(?:(computed as) (»)|(.+?))( downwards)?$/u') ?? ['', '', '', $part->value(), ''];
                if ('' !== $m[1]) {
                    $sql[] = \count($parts);
                }
                $parts[] = new IndexPart('' === $m[1] ? $m[3] : $m[2], '' === $m[0] ? null : (int) str_replace(',', '', $m[0]), '' !== $m[4]);
            }
        }

        return new Lookup($parts, $sql, $name, $unique, $method, $where, $comment, $this->line + 1);
    }

    /** @param list<Piece> $pieces */
    private function trigger(array $pieces, string $name): Trigger
    {
        [$timing, $event, $body, $statement] = ['', '', null, ''];
        foreach (\array_slice($pieces, 1) as $piece) {
            if (null !== ($m = $piece->match(
                '/^(before|after|instead of) ((?:insert|update|delete|truncate)(?: or (?:insert|update|delete|truncate))*)$/ui',
            ))) {
                [$timing, $event] = [strtoupper($m[0]), strtoupper($m[1])];
            } elseif ($piece->isQuoted()) {
                $body = $piece->quotes[0];
            } elseif (null !== ($m = $piece->match('/^made by (»)$/u'))) {
                $statement = $m[0];
            } else {
                throw new NotUnderstood('Here stands when it runs (“before insert”), or its SQL in $$ … $$.', $piece);
            }
        }
        if ('' === $timing || null === $body) {
            throw new NotUnderstood('A trigger says when it runs (“before insert”) and what it does, in $$ … $$.', $pieces[0]);
        }

        return new Trigger($name, $timing, $event, $body, $statement);
    }

    // ---- sentences ----

    /**
     * @param list<Piece> $pieces
     *
     * @return array{Piece, Piece|null, list<Piece>}
     */
    private function halves(array $pieces, string $line): array
    {
        $halves = [];
        foreach ($pieces as $piece) {
            $last = \count($halves) - 1;
            if ($last >= 0 && ';' !== $piece->before) {
                $was = $halves[$last];
                $halves[$last] = new Piece(
                    $was->text.', '.$piece->text,
                    [...$was->quotes, ...$piece->quotes],
                    $was->at,
                    $piece->at + $piece->length - $was->at,
                    $was->before,
                );
            } else {
                $halves[] = $piece;
            }
        }
        if (\count($halves) > 2) {
            throw new NotUnderstood('A sentence has two halves, one for each direction, with one semicolon between.', $halves[2]);
        }

        return [$halves[0], $halves[1] ?? null, []];
    }

    private function sentences(): void
    {
        $names = [];
        foreach ($this->things as $thing) {
            $names[Names::key($thing->name)] = $thing->name;
        }
        foreach ($this->halves as $number => [$forth, $back]) {
            $this->line = $this->statements[$number]->from;
            $this->last = $this->statements[$number]->to;
            try {
                $join = $this->joins[$number] ?? new DesignJoin('', '', new Count(0, null), '', '', new Count(0, null), line: $this->line + 1);
                $a = $this->half($forth, $names);
                $b = null === $back ? null : $this->half($back, $names);
                if (null !== $b && (Names::key($b['subject']) !== Names::key($a['object']) || Names::key($b['object']) !== Names::key($a['subject']))) {
                    throw new NotUnderstood(\sprintf('The second half says it the other way round: from %s to %s.', $a['object'], $a['subject']), $back);
                }
                $this->joins[$number] = $join->with(
                    from: $a['subject'], verb: $a['verb'], count: $a['count'], to: $a['object'], verbBack: $b['verb'] ?? '',
                    countBack: $b['count'] ?? new Count(0, null),
                    role: $a['role'] ?: ($b['role'] ?? ''), through: $a['through'] ?: ($b['through'] ?? []), key: $a['key'] ?: ($b['key'] ?? []),
                    line: $this->line + 1,
                );
            } catch (NotUnderstood $e) {
                $this->fault($e, $this->lines[$this->line]);
                unset($this->joins[$number]);
            }
        }
        ksort($this->joins);
    }

    /**
     * @param array<string, string> $names key → thing
     *
     * @return array{subject: string, verb: string, count: Count, object: string, role: string, through: list<string>, key: list<string>}
     */
    private function half(Piece $piece, array $names): array
    {
        $text = preg_replace('/\s*\.$/u', '', $piece->text) ?? $piece->text;
        if (1 !== preg_match(self::COUNT, $text, $m)) {
            throw new NotUnderstood(
                'How many? A sentence says it before the second thing: exactly one, at most one, one or more, any number of, or 2 to 4.',
                $piece,
                ['exactly one', 'at most one', 'one or more', 'any number of'],
            );
        }
        $bare = preg_replace('/^(?:an?|each|every|the) /ui', '', $m[1]) ?? $m[1];
        $head = explode(' ', $bare);
        $subject = null;
        for ($n = \count($head); $n > 0; --$n) {
            $said = Piece::put(implode(' ', \array_slice($head, 0, $n)), $piece->quotes);
            if (isset($names[Names::key($said)])) {
                $subject = $names[Names::key($said)];
                break;
            }
        }
        if (null === $subject) {
            throw $this->unknown(Piece::put($head[0], $piece->quotes), $names, $piece);
        }
        $used = substr_count(implode(' ', \array_slice($head, 0, $n)), Piece::MARK);
        $verb = Piece::put(implode(' ', \array_slice($head, $n)), \array_slice($piece->quotes, $used));
        $used = substr_count($m[1], Piece::MARK);
        1 === preg_match('/^(?:other )?(.+?)(?: as (.+?))?(?: through (.+?))?(?: to (.+?))?$/su', $m[3], $tail, \PREG_UNMATCHED_AS_NULL);
        $groups = [];
        foreach ([1, 2, 3, 4] as $g) {
            $groups[$g] = [];
            foreach (match (true) {
                !isset($tail[$g]) => [],
                1 === $g || 2 === $g => [$tail[$g]],
                default => self::split($tail[$g]),
            } as $part) {
                $groups[$g][] = Piece::put($part, \array_slice($piece->quotes, $used));
                $used += substr_count($part, Piece::MARK);
            }
        }
        // "gauge2s": a plural that no dictionary knows.
        $named = $groups[1][0] ?? '';
        $object = $names[Names::key($named)] ?? $names[Names::key(preg_replace('/s$/u', '', $named) ?? '')] ?? throw $this->unknown($named, $names, $piece);

        return [
            'subject' => $subject,
            'verb' => $verb,
            'count' => self::count($m[2]),
            'object' => $object,
            'role' => $groups[2][0] ?? '',
            'through' => $groups[3],
            'key' => $groups[4],
        ];
    }

    /** @return list<string> */
    private static function split(string $list): array
    {
        return array_values(array_filter(array_map(trim(...), preg_split('/,| and /u', $list) ?: []), static fn (string $part): bool => '' !== $part));
    }

    private static function count(string $words): Count
    {
        $number = static fn (string $figure): int => (int) str_replace(',', '', $figure);

        return match (true) {
            'exactly one' === $words => new Count(1, 1),
            'at most one' === $words => new Count(0, 1),
            'one or more' === $words, 'at least one' === $words => new Count(1, null),
            'any number of' === $words => new Count(0, null),
            1 === preg_match('/^exactly ([\d,]+)$/', $words, $m) => new Count($number($m[1]), $number($m[1])),
            1 === preg_match('/^at most ([\d,]+)$/', $words, $m) => new Count(0, $number($m[1])),
            1 === preg_match('/^([\d,]+) or more$|^at least ([\d,]+)$/', $words, $m) => new Count($number($m[2] ?? $m[1]), null),
            1 === preg_match('/^([\d,]+) to ([\d,]+)$/', $words, $m) => new Count(min($number($m[1]), $number($m[2])), max($number($m[1]), $number($m[2]))),
            default => new Count(0, null),
        };
    }

    /** @param array<string, string> $names */
    private function unknown(string $said, array $names, Piece $piece): NotUnderstood
    {
        $near = [];
        foreach ($names as $key => $name) {
            $apart = levenshtein(substr(Names::key($said), 0, 60), substr((string) $key, 0, 60));
            if ($apart <= 2) {
                $near[$name] = $apart;
            }
        }
        asort($near);
        $offers = \array_slice(array_map(strval(...), array_keys($near)), 0, 3);

        return new NotUnderstood(
            \sprintf(
                'No thing is called “%s”.%s',
                $said,
                [] === $offers ? ' Write a line with its name, and below it what is known of it.' : ' Did you mean '.self::or($offers).'?',
            ),
            $piece,
            $offers,
        );
    }

    // ---- names ----

    private function name(Piece $piece): string
    {
        $name = $piece->value();
        if ('' === trim($name)) {
            throw new NotUnderstood('A name was expected here.', $piece);
        }
        if (!$piece->isQuoted() && 1 === preg_match('/[^\p{L}\p{M}\p{N} _\-\'’.()]/u', $piece->text, $m) && !str_contains($piece->text, Piece::MARK)) {
            throw new NotUnderstood(\sprintf('A name that holds “%s” stands in quotation marks.', $m[0]), $piece, [Quotes::around($name)]);
        }
        if (str_contains($piece->text, Piece::MARK) && !$piece->isQuoted()) {
            throw new NotUnderstood('A name is quoted whole, or not at all.', $piece, ['"'.str_replace('"', '', $name).'"']);
        }

        return $name;
    }

    private function named(string $said): string
    {
        return trim(preg_replace('/\s+/u', ' ', $said) ?? $said);
    }

    /**
     * Names with commas and "and" between them.
     *
     * @param list<Piece> $pieces
     *
     * @return list<string>
     */
    private function names(array $pieces): array
    {
        $parts = array_merge(...array_map(static fn (Piece $piece): array => $piece->parts(), $pieces));

        return array_map(fn (Piece $part): string => $this->named($part->value()), $parts);
    }

    /** @param list<Piece> $pieces */
    private function rest(array $pieces, int $from): string
    {
        $rest = '';
        foreach (\array_slice($pieces, $from) as $i => $piece) {
            $rest .= (0 === $i ? '' : $piece->before.' ').$piece->value();
        }

        return $rest;
    }

    /** @param list<Piece> $pieces */
    private function option(array $pieces, int $from, string $word): ?string
    {
        foreach (\array_slice($pieces, $from) as $piece) {
            $m = $piece->match('/^'.$word.' (»)$/us') ?? throw new NotUnderstood(\sprintf('Here only stands “%s "…"”.', $word), $piece);

            return $m[0];
        }

        return null;
    }

    /** @param list<string> $words */
    private static function or(array $words): string
    {
        $last = array_pop($words);

        return [] === $words ? (string) $last : implode(', ', $words).' or '.$last;
    }

    // ---- the whole ----

    private function whole(): Design
    {
        $seen = $things = [];
        foreach ($this->things as $number => $thing) {
            $key = Names::key($thing->name);
            if (isset($seen[$key])) {
                $this->faults[] = new Fault(
                    $thing->line,
                    0,
                    mb_strlen($thing->name),
                    \sprintf('There is a thing “%s” already, in line %d.', $seen[$key]->name, $seen[$key]->line),
                );
                continue;
            }
            $seen[$key] = $thing;
            $things[] = $thing;
        }
        usort($this->faults, static fn (Fault $a, Fault $b): int => [$a->line, $a->column] <=> [$b->line, $b->column]);

        return $this->design->with(
            things: $things, joins: array_values(
                array_filter($this->joins, static fn (DesignJoin $join): bool => '' !== $join->from),
            ), lists: array_values($this->lists),
            questions: array_values($this->questions), blocks: $this->blocks, views: array_values($this->views),
        );
    }
}
