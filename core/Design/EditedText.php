<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\IndexPart;

/** An outline in which a name has become another, wherever it stands. */
final class EditedText
{
    public function __construct(private readonly Edits $all)
    {
    }

    public function renamed(string $thing, string $was, string $is): void
    {
        $of = Names::key($thing);
        $key = Names::key($was);
        $this->reprint(
            static fn (string $said): string => Names::key($said) === $key ? $is : $said,
            static fn (string $name): bool => Names::key($name) === $of,
            false,
        );
    }

    /**
     * Reprints the lines that mention a name.
     *
     * @param \Closure(string): string $map
     * @param \Closure(string): bool   $within whether names in the block of a thing are meant
     * @param bool                     $things it is the name of a thing, which stands in sentences too
     */
    public function reprint(\Closure $map, \Closure $within, bool $things): void
    {
        $changed = [];
        $in = '';
        foreach ($this->all->outline->statements as $n => $statement) {
            $line = null;
            if ('thing' === $statement->kind) {
                $thing = Formatting::thingAt($this->all->outline->design, $statement->from + 1);
                $in = $thing->name ?? '';
                $line = null === $thing || !$things ? null : self::ofThing($thing, $map);
            } elseif ('join' === $statement->kind) {
                $in = '';
                $changed = $this->ofJoin($n, $statement, $map, $within, $things) + $changed;
            } elseif ('' !== $in && $within($in) && null !== $statement->object) {
                $line = self::mapped($statement->object, $map);
            } elseif ('question' === $statement->kind && $things) {
                $line = $this->ofQuestion($statement, $map);
            } elseif ('view' === $statement->kind && $things) {
                $line = $this->ofView($statement, $map);
            }
            if (null !== $line) {
                $changed[$n] = $line;
            }
        }
        krsort($changed);
        foreach ($changed as $n => $line) {
            $statement = $this->all->outline->statements[$n];
            if ($this->all->outline->isBroken($statement)) {
                continue;
            }
            array_splice(
                $this->all->lines,
                $statement->from,
                $statement->to - $statement->from + 1,
                explode("\n", (null === $statement->in ? '' : '  ').$line),
            );
        }
        $this->all->again();
    }

    /** @param \Closure(string): string $map */
    private static function ofThing(Thing $thing, \Closure $map): ?string
    {
        $new = $thing->with(name: $map($thing->name), kindOf: null === $thing->kindOf ? null : $map($thing->kindOf));

        return $new->name === $thing->name && $new->kindOf === $thing->kindOf ? null : OutlineWriter::thingHead($new);
    }

    /**
     * A sentence, and what is said below it of deleting.
     *
     * @param \Closure(string): string $map
     * @param \Closure(string): bool   $within
     *
     * @return array<int, string> lines by the number of their statement
     */
    private function ofJoin(int $n, Statement $statement, \Closure $map, \Closure $within, bool $things): array
    {
        $join = $this->all->joinAt($statement->from + 1);
        if (null === $join) {
            return [];
        }
        $new = $join->with(
            from: $things ? $map($join->from) : $join->from,
            to: $things ? $map($join->to) : $join->to,
            through: !$things && $within($join->child()) ? array_map($map, $join->through) : $join->through,
            key: !$things && $within($join->parent()) ? array_map($map, $join->key) : $join->key,
        );
        $lines = OutlineWriter::join($new);
        $changed = $lines[0] === OutlineWriter::join($join)[0] ? [] : [$n => $lines[0]];
        foreach ($things ? $this->all->outline->within($n) : [] as $inner) {
            $said = ltrim($this->all->lines[$this->all->outline->statements[$inner]->from]);
            foreach ($lines as $line) {
                foreach (['deleting ', 'changing the key of '] as $lead) {
                    if (str_starts_with($said, $lead) && str_starts_with(ltrim($line), $lead) && ltrim($line) !== $said) {
                        $changed[$inner] = ltrim($line);
                    }
                }
            }
        }

        return $changed;
    }

    /** @param \Closure(string): string $map */
    private function ofQuestion(Statement $statement, \Closure $map): ?string
    {
        foreach ($this->all->outline->design->questions as $question) {
            if ($question->line === $statement->from + 1 && array_map($map, $question->of) !== $question->of) {
                return OutlineWriter::question(new OpenQuestion($question->text, array_map($map, $question->of)))[0];
            }
        }

        return null;
    }

    /** @param \Closure(string): string $map */
    private function ofView(Statement $statement, \Closure $map): ?string
    {
        foreach ($this->all->outline->design->views as $view) {
            if ($view->line === $statement->from + 1 && $map($view->of) !== $view->of) {
                return OutlineWriter::view(new DesignView($view->name, $map($view->of), []))[0];
            }
        }

        return null;
    }

    /** @param \Closure(string): string $map */
    private static function mapped(mixed $object, \Closure $map): ?string
    {
        if ($object instanceof Identifier) {
            $new = new Identifier(array_map($map, $object->parts), $object->name);

            return $new->parts === $object->parts ? null : OutlineWriter::identifier($new);
        }
        if ($object instanceof Lookup) {
            $parts = [];
            foreach ($object->parts as $i => $part) {
                $parts[] = \in_array($i, $object->sql, true) ? $part : new IndexPart($map($part->column), $part->length, $part->descending);
            }
            $new = new Lookup($parts, $object->sql, $object->name, $object->unique, $object->method, $object->where, $object->comment);

            return OutlineWriter::lookup($new) === OutlineWriter::lookup($object) ? null : OutlineWriter::lookup($new);
        }
        if ($object instanceof Dependency) {
            $new = new Dependency($map($object->of), array_map($map, $object->on));

            return $new->of === $object->of && $new->on === $object->on ? null : OutlineWriter::dependency($new);
        }
        if ($object instanceof Always) {
            $of = null === $object->of ? null : $map($object->of);

            return $of === $object->of ? null : OutlineWriter::always(new Always($object->sql, $object->name, $of));
        }
        if ($object instanceof Attribute) {
            $limits = array_map(static fn (Limit $limit): Limit => $limit->value ? $limit : new Limit($limit->words, $map($limit->than)), $object->limits);

            return $limits == $object->limits ? null : OutlineWriter::attribute($object->with(limits: $limits));
        }

        return null;
    }
}
