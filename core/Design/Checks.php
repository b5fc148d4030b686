<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Noun;

/**
 * What is noticed while one writes: in a design itself, before any engine is asked. Normal forms follow from the dependencies that are
 * stated (E. F. Codd, Further normalization of the data base relational model, 1972), by closures of sets of attributes.
 */
final class Checks
{
    /** @var list<DesignFinding> */
    private array $findings = [];
    /** @var list<DesignJoin>|null many at both ends */
    private ?array $links = null;

    private function __construct(private readonly Design $design)
    {
    }

    /** @return list<DesignFinding> by line */
    public static function of(Design $design, Worked $worked): array
    {
        $self = new self($design);
        foreach ($design->things as $thing) {
            $self->tellsApart($thing);
            $self->repeated($thing);
            $self->normal($thing);
            $self->ofJoin($thing);
            $self->risks($thing);
        }
        foreach ($worked->tables as $table) {
            $self->leftOpen($table);
        }
        $self->halves();
        foreach ($design->joins as $join) {
            $self->sentence($join);
        }
        $self->twice();
        $self->loops();
        $self->alike();
        $findings = [...$self->findings, ...$worked->findings];
        usort($findings, static fn (DesignFinding $a, DesignFinding $b): int => [$a->line, !$a->serious] <=> [$b->line, !$b->serious]);

        return $findings;
    }

    // ---- things ----

    private function tellsApart(Thing $thing): void
    {
        $unique = array_filter($thing->attributes, static fn (Attribute $attribute): bool => $attribute->unique && $attribute->required);
        if ([] !== $thing->keys || [] !== $unique || null !== $thing->kindOf) {
            return;
        }
        $name = Names::small($thing->name);
        $this->add(
            'told apart',
            $thing->line,
            \sprintf('Nothing that is known of them tells two %s apart, so that the same one may be entered twice.', Noun::plural($name)),
            'Say by what: “told apart by …”, or make an attribute unique and required.',
            $thing->name,
            \sprintf('How do you tell one %s from another?', $name),
        );
    }

    /** Rows that are empty in what tells them apart are told apart by nothing: no unique key compares them. */
    private function leftOpen(WorkedTable $table): void
    {
        $thing = $table->thing;
        if ('thing' !== $table->kind || null === $thing || [] === $thing->keys || [] === $table->unique || ['key'] !== $table->primary) {
            return;
        }
        $open = [];
        foreach ($table->unique as $unique) {
            $columns = array_map(static fn (string $key): ?WorkedColumn => $table->columns[$key] ?? null, $unique['columns']);
            $empty = array_filter($columns, static fn (?WorkedColumn $column): bool => null !== $column && !$column->required);
            if ([] === $empty) {
                return;
            }
            $open = [] === $open ? array_values(array_map(static fn (WorkedColumn $column): string => $column->name, $empty)) : $open;
        }
        $name = Names::small($thing->name);
        $this->add(
            'told apart',
            $thing->keys[0]->line,
            \sprintf('Two %s are not told apart where %s is empty: the same one may be entered twice.', Noun::plural($name), implode(' or ', $open)),
            \sprintf('Make %s required, or tell %s apart by something else.', implode(' and ', $open), Noun::plural($name)),
            $thing->name,
            \sprintf('May %s be entered without %s?', Noun::withArticle($name), implode(' or ', $open)),
        );
    }

    /** "phone 1, phone 2": what comes several times is a thing, or an attribute of which there is any number. */
    private function repeated(Thing $thing): void
    {
        $groups = [];
        foreach ($thing->attributes as $attribute) {
            if (1 === preg_match('/^(.*\D)\s*(\d{1,2})$|^(first|second|third|fourth|fifth)\s+(.+)$/ui', $attribute->name, $m, \PREG_UNMATCHED_AS_NULL)) {
                $groups[Names::key((string) ($m[1] ?? $m[4]))][] = $attribute;
            }
            if ('any of' === $attribute->type->kind) {
                $this->add(
                    'several values',
                    $attribute->line,
                    \sprintf(
                        '%s holds several values at once (against the first normal form): none of them can be joined or counted by itself.',
                        Names::big($attribute->name),
                    ),
                    \sprintf('Write “%s, any number of one of …”, which becomes a table.', $attribute->name),
                    $thing->name,
                );
            }
        }
        foreach ($groups as $stem => $group) {
            if (\count($group) > 1) {
                $this->add(
                    'repeated',
                    $group[0]->line,
                    \sprintf(
                        '%s repeat one thing (against the first normal form): what if there is one more?',
                        Names::big(implode(', ', array_map(static fn (Attribute $each): string => $each->name, $group))),
                    ),
                    \sprintf('Write “%s, any number of …”, or a thing of its own with a sentence that leads to it.', trim($stem)),
                    $thing->name,
                    \sprintf('How many may %s have?', Noun::withArticle(Names::small($thing->name))),
                );
            }
        }
    }

    /** Second and third normal form, as far as dependencies are stated. */
    private function normal(Thing $thing): void
    {
        if ([] === $thing->dependencies) {
            return;
        }
        $keys = array_map(static fn (Identifier $key): array => array_map(Names::key(...), $key->parts), $thing->keys);
        foreach ($thing->attributes as $attribute) {
            if ($attribute->unique) {
                $keys[] = [Names::key($attribute->name)];
            }
        }
        $inKeys = array_merge([], ...$keys);
        foreach ($thing->dependencies as $dependency) {
            $on = array_map(Names::key(...), $dependency->on);
            $known = true;
            foreach ([$dependency->of, ...$dependency->on] as $name) {
                if (null === $thing->attribute($name) && !$this->leads($thing, $name)) {
                    $known = false;
                    $this->add(
                        'depends',
                        $dependency->line,
                        \sprintf('“%s” is neither known of %s nor something that it leads to.', $name, Noun::withArticle(Names::small($thing->name))),
                        'Write it below the thing first.',
                        $thing->name,
                        serious: true,
                    );
                }
            }
            $of = Names::key($dependency->of);
            $whole = self::closure($on, $thing->dependencies);
            $covers = [] !== array_filter($keys, static fn (array $key): bool => [] === array_diff($key, $whole));
            if (!$known || $covers || \in_array($of, $on, true) || \in_array($of, $inKeys, true)) {
                continue;
            }
            $part = [] !== array_filter($keys, static fn (array $key): bool => [] === array_diff($on, $key) && \count($on) < \count($key));
            $by = implode(' and ', $dependency->on);
            $this->add(
                $part ? 'second form' : 'third form',
                $dependency->line,
                \sprintf(
                    $part ? '%s follows from %s alone, a part of what tells %s apart (against the second normal form): it is written again with each of them.'
                        : '%s follows from %s, which does not tell %s apart (against the third normal form): it is written again with each of them.',
                    Names::big($dependency->of),
                    $by,
                    Noun::plural(Names::small($thing->name)),
                ),
                \sprintf('Make %s a thing of its own that has %s, and lead to it.', $by, $dependency->of),
                $thing->name,
                \sprintf('Is there only ever one %s for each %s?', $dependency->of, $by),
            );
        }
    }

    /**
     * Everything that follows from some attributes.
     *
     * @param list<string>     $from
     * @param list<Dependency> $dependencies
     *
     * @return list<string>
     */
    private static function closure(array $from, array $dependencies): array
    {
        do {
            $count = \count($from);
            foreach ($dependencies as $dependency) {
                $of = Names::key($dependency->of);
                if (!\in_array($of, $from, true) && [] === array_diff(array_map(Names::key(...), $dependency->on), $from)) {
                    $from[] = $of;
                }
            }
        } while (\count($from) > $count);

        return $from;
    }

    private function leads(Thing $thing, string $name): bool
    {
        $key = Names::key($name);
        $own = Names::key($thing->name);
        foreach ($this->design->joins as $join) {
            if (($own === Names::key($join->from) && \in_array($key, [Names::key($join->to), Names::key($join->role)], true))
                || ($own === Names::key($join->to) && $key === Names::key($join->from))) {
                return true;
            }
        }

        return $key === $own;
    }

    /** An attribute that says something of the pair, and not of one of the two. */
    private function ofJoin(Thing $thing): void
    {
        $own = Names::key($thing->name);
        foreach ($this->links ??= array_values(array_filter($this->design->joins, static fn (DesignJoin $join): bool => $join->isLink())) as $join) {
            if (!\in_array($own, [Names::key($join->from), Names::key($join->to)], true)) {
                continue;
            }
            $other = $own === Names::key($join->from) ? $join->to : $join->from;
            if ($own === Names::key($other)) {
                continue;
            }
            foreach ($thing->attributes as $attribute) {
                $named = str_starts_with(Names::key($attribute->name).' ', Names::key($other).' ');
                $depends = [] !== array_filter(
                    $thing->dependencies,
                    static fn (Dependency $each): bool => Names::key($each->of) === Names::key($attribute->name)
                    && \in_array(Names::key($other), array_map(Names::key(...), $each->on), true));
                if ($named || $depends) {
                    $this->add(
                        'belongs to the join',
                        $attribute->line,
                        \sprintf(
                            '%s has one %s, though there may be several %s: it belongs to the two together.',
                            Names::big(Noun::withArticle(Names::small($thing->name))),
                            $attribute->name,
                            Noun::plural(Names::small($other)),
                        ),
                        \sprintf('Write it below the sentence that joins them, in line %d.', $join->line),
                        $thing->name,
                    );
                }
            }
        }
    }

    /** What speaks against a key that people know. */
    private function risks(Thing $thing): void
    {
        $mode = $thing->keyed ?? $this->design->rules->of('keys');
        $key = $thing->keys[0] ?? null;
        if ('natural' !== $mode || null === $key || '' !== $thing->from) {
            return;
        }
        foreach ($key->parts as $part) {
            $attribute = $thing->attribute($part);
            if (null === $attribute || $attribute->numbered) {
                continue;
            }
            if ($attribute->personal) {
                $this->add(
                    'personal key',
                    $key->line,
                    \sprintf('%s is personal, and as a key it goes into every table that leads here.', Names::big($attribute->name)),
                    'Give the thing a number of its own: “keyed by a number of its own”. What tells it apart is guarded all the same.',
                    $thing->name,
                    serious: true,
                );
            } elseif (\in_array($attribute->type->kind, ['text', 'fixed text', ''], true)) {
                $this->add(
                    'changing key',
                    $key->line,
                    \sprintf(
                        '%s may change, or be given to another one later; as a key it stands in every table that leads here.',
                        Names::big($attribute->name),
                    ),
                    'A number of its own never changes: “keyed by a number of its own”.',
                    $thing->name,
                    \sprintf('Does the %s of %s ever change, or is it used again?', $attribute->name, Noun::withArticle(Names::small($thing->name))),
                );
            }
        }
    }

    // ---- sentences ----

    private function halves(): void
    {
        $of = [];
        foreach ($this->design->things as $thing) {
            $of[Names::key($thing->name)] = Names::key($thing->name);
        }
        $find = static function (string $key) use (&$of): string {
            while ($of[$key] !== $key) {
                $key = $of[$key];
            }

            return $key;
        };
        $pairs = array_map(static fn (DesignJoin $join): array => [$join->from, $join->to], $this->design->joins);
        foreach ($this->design->things as $thing) {
            if (null !== $thing->kindOf) {
                $pairs[] = [$thing->name, $thing->kindOf];
            }
        }
        foreach ($pairs as [$a, $b]) {
            $a = Names::key($a);
            $b = Names::key($b);
            if (isset($of[$a], $of[$b])) {
                $of[$find($a)] = $find($b);
            }
        }
        $parts = [];
        foreach ($this->design->things as $thing) {
            $parts[$find(Names::key($thing->name))][] = $thing;
        }
        usort($parts, static fn (array $a, array $b): int => \count($b) <=> \count($a));
        foreach (\array_slice($parts, 1) as $part) {
            $names = array_map(static fn (Thing $thing): string => Names::small($thing->name), \array_slice($part, 0, 4));
            $more = \count($part) - \count($names);
            $this->add(
                'no way',
                $part[0]->line,
                \sprintf('No way leads from %s%s to the rest.', implode(', ', $names), 0 === $more ? '' : ' and '.Amount::of($more, 'other')),
                \sprintf(
                    'Say how they are connected: “%s … exactly one …; … any number of %s.”',
                    Names::big(Noun::withArticle($names[0])),
                    Noun::plural($names[0]),
                ),
                $part[0]->name,
                \sprintf('What has %s to do with %s?', Noun::withArticle($names[0]), Noun::withArticle(Names::small($parts[0][0]->name))),
            );
        }
    }

    private function sentence(DesignJoin $join): void
    {
        if ('' === $join->verbBack && [0, null] === [$join->countBack->least, $join->countBack->most]) {
            $from = Noun::plural(Names::small($join->from));
            $to = Noun::withArticle(Names::small($join->to));
            $this->add(
                'one way',
                $join->line,
                \sprintf('Read it the other way round too: nothing is said of how many %s there may be for %s.', $from, $to),
                'Go on behind a semicolon. Any number is taken until then.',
                $join->from,
                \sprintf('How many %s may there be for %s?', $from, $to),
            );
        }
        foreach ([[$join->count, $join->from, $join->to], [$join->countBack, $join->to, $join->from]] as [$count, $from, $to]) {
            $isChild = !$join->isLink() && Names::key($from) === Names::key($join->child()) && !$count->many();
            $guarded = $isChild || (0 === $count->least && (!$count->many() || null === $count->most));
            if ($guarded || (!$join->isLink() && !$count->many() && 0 === $count->least)) {
                continue;
            }
            $this->add(
                'not held',
                $join->line,
                \sprintf(
                    'No table can hold that %s has %s: it is written down, and whoever enters rows must see to it.',
                    Noun::withArticle(Names::small($from)),
                    self::counted($count, Names::small($to)),
                ),
                '',
                $join->from,
            );
        }
        if (!$join->isLink()) {
            $this->deleting($join);
        } elseif ($join->again && [] === $join->keys) {
            $this->add(
                'again',
                $join->line,
                'The same two may be linked again, and nothing guards against the same link entered twice.',
                'Say below it what tells two links apart.',
                $join->from,
                \sprintf('What tells two times apart that the same %s and %s come together?', Names::small($join->from), Names::small($join->to)),
            );
        }
    }

    /** Deleting that would leave a row without what it always has. */
    private function deleting(DesignJoin $join): void
    {
        $action = $join->onDelete ?? ['deletes' => 'CASCADE', 'empties' => 'SET NULL'][$this->design->rules->of('deleting')] ?? '';
        if ('SET NULL' !== $action || 0 === $join->parents()->least) {
            return;
        }
        $parent = Noun::withArticle(Names::small($join->parent()));
        $child = Names::small($join->child());
        $always = Names::big(Noun::withArticle($child)).' always has '.$parent;
        if (null !== $join->onDelete) {
            $this->add(
                'against a rule',
                $join->line,
                \sprintf('%s, and yet deleting %s would leave it without one.', $always, $parent),
                \sprintf('Write “at most one” if it may be without, or “deleting %s is refused”.', $parent),
                $join->child(),
                \sprintf('What happens with its %s when %s is deleted?', Noun::plural($child), $parent),
                true,
            );
        } else {
            $this->add(
                'against a rule',
                $join->line,
                \sprintf('%s, against the rule “%s”: here, deleting is refused.', $always, Rules::sentence('deleting', 'empties')),
                \sprintf('Write “at most one” if it may be without, or below the sentence what deleting %s does.', $parent),
                $join->child(),
            );
        }
    }

    private function twice(): void
    {
        $seen = [];
        foreach ($this->design->joins as $join) {
            $ends = [Names::key($join->from), Names::key($join->to)];
            sort($ends);
            $key = implode('|', [...$ends, Names::key($join->role), implode(',', $join->through), Names::key($join->link)]);
            if (isset($seen[$key])) {
                $this->add(
                    'said twice',
                    $join->line,
                    \sprintf('Line %d joins %s and %s already.', $seen[$key], Names::small($join->from), Names::small($join->to)),
                    'If they have to do with each other in two ways, say what the one is to the other: “… exactly one person as owner”.',
                    $join->from,
                    \sprintf(
                        'Has %s to do with %s in more than one way?',
                        Noun::withArticle(Names::small($join->from)),
                        Noun::withArticle(Names::small($join->to)),
                    ),
                );
            }
            $seen[$key] ??= $join->line;
        }
    }

    /** Parents that need each other: no first row can be entered. */
    private function loops(): void
    {
        $needs = [];
        foreach ($this->design->joins as $join) {
            if (!$join->isLink() && $join->parents()->least > 0) {
                $needs[Names::key($join->child())][Names::key($join->parent())] = $join;
            }
        }
        $done = [];
        foreach (array_keys($needs) as $start) {
            $this->walk((string) $start, [], [], $needs, $done);
        }
    }

    /**
     * @param list<string>                              $way
     * @param list<DesignJoin>                          $by
     * @param array<string, array<string, DesignJoin>> $needs
     * @param array<string, true>                       $done
     */
    private function walk(string $at, array $way, array $by, array $needs, array &$done): void
    {
        $known = array_search($at, $way, true);
        if (false !== $known) {
            $loop = \array_slice($by, $known);
            $names = array_map(static fn (DesignJoin $join): string => Names::small($join->child()), $loop);
            $words = 1 === \count($loop)
                ? \sprintf('%s always needs another %s', Names::big(Noun::withArticle($names[0])), $names[0])
                : implode(', ', array_map(static fn (DesignJoin $join): string => Noun::withArticle(Names::small($join->child()), false)
                    .' needs '.Noun::withArticle(Names::small($join->parent())), $loop));
            $line = max(0, ...array_map(static fn (DesignJoin $join): int => $join->line, $loop));
            $this->add(
                'needs itself',
                $line,
                Names::big($words).': no first one can ever be entered.',
                'Let one of them be without: “at most one”.',
                $loop[0]->child(),
                \sprintf(
                    'Which comes first, %s?',
                    1 === \count($names) ? 'and what does it lead to' : implode(
                        ' or ',
                        array_map(static fn (string $name): string => Noun::withArticle($name), $names),
                    ),
                ), true);

            return;
        }
        if (isset($done[$at])) {
            return;
        }
        foreach ($needs[$at] ?? [] as $next => $join) {
            $this->walk((string) $next, [...$way, $at], [...$by, $join], $needs, $done);
        }
        $done[$at] = true;
    }

    /** Two names that differ by style only. */
    private function alike(): void
    {
        $seen = [];
        foreach ($this->design->things as $thing) {
            $names = [[$thing->name, $thing->line], ...array_map(static fn (Attribute $each): array => [$each->name, $each->line], $thing->attributes)];
            foreach ($names as $i => [$name, $line]) {
                $kind = 0 === $i ? 'thing' : 'attribute';
                $folded = $kind.preg_replace('/[^\p{L}\p{N}]+/u', '', mb_strtolower($name));
                $was = $seen[$folded] ?? null;
                if (null !== $was && mb_strtolower($was[0]) !== mb_strtolower($name)) {
                    $this->add(
                        'style only',
                        $line,
                        \sprintf('“%s” and “%s” in line %d differ only in how they are written.', $name, $was[0], $was[1]),
                        'If they mean the same, call them the same.',
                        $thing->name,
                    );
                }
                $seen[$folded] ??= [$name, $line];
            }
        }
    }

    // ---- words ----

    private static function counted(Count $count, string $noun): string
    {
        return $count->inWords().' '.($count->many() ? Noun::plural($noun) : $noun);
    }

    private function add(string $check, int $line, string $words, string $todo, string $about, string $ask = '', bool $serious = false): void
    {
        $this->findings[] = new DesignFinding($check, $line, $words, $todo, $about, $ask, $serious);
    }
}
