<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\Dialects;

/**
 * Reads an outline, line by line. A line that is not understood is kept as a fault with its place, and the others are read all the
 * same. docs/outline.md has an example of each line.
 */
final class OutlineReader
{
    public const COUNT = '/^(.+?) (exactly one|at most one|one or more|at least one|any number of'
        .'|exactly [\d,]+|at most [\d,]+|at least [\d,]+|[\d,]+ or more|[\d,]+ to [\d,]+) (.+)$/su';
    private const BLOCKS = '/^(View|Materialized view|Routine|Type|Statement) »(?: in »)?$/';

    /** What goes beyond is not read: nobody reads such an outline, and every page that shows it would be held up. */
    public const BEYOND = 'The outline is not read from here on';
    public const MOST_THINGS = 5000;
    public const MOST_STATEMENTS = 150000;

    /** With which lines of a thing begin that are no attributes. */
    private const WORDS = ['told', 'looked', 'always', 'trigger', 'table', 'in', 'meaning', 'keyed', 'stored', 'sorted', 'keeps', 'is'];

    /** @var list<Statement> */
    public array $statements = [];
    /** @var list<Fault> */
    private array $faults = [];
    /** @var list<string> */
    public array $lines = [];
    public int $line = 0;
    public int $last = 0;
    /** Number of the statement in whose block we are. */
    public ?int $block = null;

    /** @var array<int, Thing> by number of the statement */
    public array $things = [];
    /** @var array<int, DesignJoin> */
    public array $joins = [];
    /** @var array<int, ValueList> */
    private array $lists = [];
    /** @var array<int, OpenQuestion> */
    private array $questions = [];
    /** @var list<SqlBlock> */
    private array $blocks = [];
    /** @var array<int, DesignView> */
    private array $views = [];
    /** @var array<int, array{Piece, Piece|null, list<Piece>}> halves of sentences, until all things are known */
    public array $halves = [];
    public Design $design;

    public readonly SentenceReader $sentencesOf;
    public readonly AttributeReader $attributes;
    public readonly ClauseReader $clauses;
    public readonly RuleReader $rules;
    public readonly OutlineNames $called;

    public function __construct()
    {
        $this->sentencesOf = new SentenceReader($this);
        $this->attributes = new AttributeReader($this);
        $this->clauses = new ClauseReader($this);
        $this->rules = new RuleReader($this);
        $this->called = new OutlineNames();
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
                if ($inside) {
                    $this->inside($pieces, $line);
                } else {
                    $this->heading($pieces, $line);
                }
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
        $this->sentencesOf->sentences();

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

    public function fault(NotUnderstood $e, string $line): void
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

    public function add(string $kind, mixed $object = null, ?string $word = null): int
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
            $this->design = $this->design->with(name: $first->quotes[0], purpose: $this->called->rest($pieces, 1));
            $this->block = $this->add('design');
        } elseif (null !== ($m = $first->match('/^Values of (.+)$/u'))) {
            $number = $this->add('list');
            $this->lists[$number] = new ValueList($this->called->named($m[0]), [], $this->line + 1);
            $this->block = $number;
        } elseif (null !== ($m = $first->match('/^Ask (»)(?:,? of (.+))?$/u'))) {
            $rest = [...('' === $m[1] ? [] : [$first->after('/^Ask '.Piece::MARK.',? /u')]), ...\array_slice($pieces, 1)];
            if (isset($rest[0])) {
                $rest[0] = $rest[0]->after('/^of /u');
            }
            $number = $this->add('question');
            $this->questions[$number] = new OpenQuestion($m[0], $this->called->names($rest), line: $this->line + 1);
            $this->block = $number;
        } elseif (null !== ($m = $first->match(self::BLOCKS)) && null === ($pieces[1] ?? null)?->match('/^over (.+)$/u')) {
            $this->sqlBlock($pieces, $first);
        } elseif (null !== ($m = $first->match('/^View (.+?),? over (.+)$/u'))
            || (null !== ($m = $first->match('/^View (.+)$/u')) && null !== ($over = ($pieces[1] ?? null)?->match('/^over (.+)$/u')))) {
            $number = $this->add('view');
            $this->views[$number] = new DesignView($this->called->named($m[0]), $this->called->named($m[1] ?? $over[0] ?? ''), [], '', $this->line + 1);
            $this->block = $number;
        } elseif (1 === preg_match('/^(?:An?|Each|Every) /u', $first->text) && $this->isSentence($line)) {
            $number = $this->add('join');
            $this->halves[$number] = $this->sentencesOf->halves($pieces, $line);
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
        $name = $this->called->name($pieces[0]);
        $thing = new Thing($name, line: $this->line + 1);
        for ($i = 1; $i < \count($pieces); ++$i) {
            $piece = $pieces[$i];
            if (null !== ($m = $piece->match('/^an? kind of (.+)$/ui'))) {
                $thing = $thing->with(kindOf: $this->called->named($m[0]));
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
        $engine = '';
        $sql = null;
        $early = false;
        $meaning = '';
        $shows = [];
        foreach (\array_slice($pieces, 1) as $piece) {
            if ($piece->isQuoted()) {
                $sql = $piece->quotes[0];
            } elseif (null !== ($said = $piece->match('/^for (.+)$/u'))) {
                $engine = $this->rules->engine($said[0], $piece);
            } elseif (null !== $piece->match('/^showing (.+)$/u')) {
                $shows = $this->called->names([$piece->after('/^showing /u')]);
            } elseif ('before the tables' === $piece->text) {
                $early = true;
            } elseif (null !== ($said = $piece->match('/^meaning (»)$/u'))) {
                $meaning = $said[0];
            } else {
                throw new NotUnderstood(\sprintf('Here stands the engine it is for (“for %s”), or its SQL in $$ … $$.', Dialects::usual()->label()), $piece);
            }
        }
        if (null === $sql) {
            throw new NotUnderstood(\sprintf('What the %s does is missing: its SQL stands behind a comma, in $$ … $$.', mb_strtolower($m[0])), $first);
        }
        $block = new SqlBlock(mb_strtolower($m[0]), $m[1], $sql, $m[2], $engine, $early, $meaning, $shows, $this->line + 1);
        $this->blocks[] = $block;
        $this->add('block', $block);
    }

    // ---- lines within a block ----

    /** @param list<Piece> $pieces */
    private function inside(array $pieces, string $line): void
    {
        $kind = null === $this->block ? '' : $this->statements[$this->block]->kind;
        match ($kind) {
            'design' => $this->rules->rule($pieces),
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
    private function ofThing(array $pieces): void
    {
        $number = (int) $this->block;
        $thing = $this->things[$number];
        $first = $pieces[0];
        $line = $this->line + 1;
        // Most lines are attributes: those that cannot be anything else are not tried as such.
        $word = explode(' ', $first->text, 2)[0];
        if (!\in_array($word, self::WORDS, true) && !str_contains($first->text, ' depends on ')) {
            $this->clauses->known($thing, $pieces);
        } elseif (null !== ($m = $first->match('/^told apart by (.+)$/u'))) {
            $key = $this->clauses->identifier($pieces);
            $this->things[$number] = $thing->with(keys: [...$thing->keys, $key]);
            $this->add('identifier', $key);
        } elseif (1 === preg_match('/^looked up (?:as one only )?by ./u', $first->text)) {
            $lookup = $this->clauses->lookup($pieces);
            $this->things[$number] = $thing->with(lookups: [...$thing->lookups, $lookup]);
            $this->add('lookup', $lookup);
        } elseif (null !== ($m = $first->match('/^always (»)(?: of (.+))?$/u'))) {
            $always = new Always($m[0], $this->called->option($pieces, 1, 'kept as'), '' === $m[1] ? null : $this->called->named($m[1]), $line);
            $this->things[$number] = $thing->with(conditions: [...$thing->conditions, $always]);
            $this->add('condition', $always);
        } elseif (null !== ($m = $first->match('/^trigger (»)$/u'))) {
            $trigger = $this->clauses->trigger($pieces, $m[0]);
            $this->things[$number] = $thing->with(triggers: [...$thing->triggers, $trigger]);
            $this->add('clause', $trigger, 'trigger');
        } elseif (null !== ($clause = $this->clauses->clause($pieces, $thing))) {
            $this->things[$number] = $clause;
            $this->add('clause', null, $first->text);
        } elseif (null !== ($m = $first->match('/^(.+?) depends on (.+)$/u'))) {
            $on = $this->called->names([$first->after('/^.+? depends on /u'), ...\array_slice($pieces, 1)]);
            $dependency = new Dependency($this->called->named($m[0]), [] === $on ? throw new NotUnderstood('On what?', $first) : $on, $line);
            $this->things[$number] = $thing->with(dependencies: [...$thing->dependencies, $dependency]);
            $this->add('dependency', $dependency);
        } else {
            $this->clauses->known($thing, $pieces);
        }
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
            $object = $this->clauses->identifier($pieces);
            $join = $join->with(keys: [...$join->keys, $object]);
            $kind = 'identifier';
        } elseif ('the same two may be linked again' === $first->text) {
            $join = $join->with(again: true);
        } elseif (null !== ($m = $first->match('/^constraint (»)$/u'))) {
            $join = $join->with(constraint: $m[0]);
        } elseif (null !== ($m = $first->match('/^table (»)$/u'))) {
            $join = $join->with(table: $m[0]);
        } elseif (null !== ($m = $first->match('/^called an? (.+)$/u'))) {
            $join = $join->with(link: $this->called->named($m[0]));
        } elseif (null !== ($m = $first->match('/^keyed by (a number of its own|a UUID of its own|both ends)$/u'))) {
            $join = $join->with(keyed: ['a number of its own' => 'number', 'a UUID of its own' => 'uuid', 'both ends' => 'both'][$m[0]] ?? null);
        } elseif (1 === preg_match('/^(deleting|changing the key of) /u', $first->text, $act)) {
            $action = $this->action($first);
            $join = 'deleting' === $act[1] ? $join->with(onDelete: $action) : $join->with(onUpdate: $action);
        } else {
            $object = $this->attributes->attribute($pieces);
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
        $this->lists[$number] = new ValueList($list->name, $list->values + [$value => $this->called->rest($pieces, 1)], $list->line);
        $this->add('value', $value);
    }

    /** @param list<Piece> $pieces */
    private function answer(array $pieces): void
    {
        $number = (int) $this->block;
        $question = $this->questions[$number];
        $m = $pieces[0]->match('/^answer (»)(?: by (.+))?$/u')
            ?? throw new NotUnderstood('Below a question stands its answer: answer "…", by who gave it.', $pieces[0]);
        $by = '' !== $m[1] ? $m[1] : (preg_replace('/^by /', '', $this->called->rest($pieces, 1)) ?? '');
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
            $parts = $piece->after('/^shows /u')->parts('/ as /u');
            $shown = $parts[0] ?? null;
            $as = $parts[1] ?? null;
            $path = array_map(fn (Piece $part): string => $this->called->named($part->value()), $shown?->parts('/ of (?:its |the )?/u') ?? []);
            $attribute = array_shift($path) ?? throw new NotUnderstood('An attribute was expected here.', $piece);
            $shows[] = ['path' => array_reverse($path), 'attribute' => $attribute, 'as' => null === $as ? '' : $this->called->named($as->value())];
        }
        $this->views[$number] = new DesignView($view->name, $view->of, $shows, $view->meaning, $view->line);
        $this->add('clause', null, 'shows');
    }

    // ---- attributes ----

    // ---- keys, indexes, triggers ----

    // ---- sentences ----

    // ---- names ----

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
