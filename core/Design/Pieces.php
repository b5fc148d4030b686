<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Wording\Noun;

/** What is told of the pieces of a drawing when one is chosen: what it is, by which rule it came about, and what else it could be. */
final readonly class Pieces
{
    public function __construct(private Design $design, private Worked $worked, private ?Physical $physical = null)
    {
    }

    /**
     * @return array<int, array{title: string, words: list<string>, line: int, thing: string, rows: list<array{key: string, label: string, words: string}>,
     *     choices: list<array{words: string, edits: list<array<string, string>>}>, shows?: list<string>}> by number of the tablet
     */
    public function tablets(): array
    {
        $pieces = [];
        foreach ($this->design->things as $thing) {
            $pieces[Drawing::id(Names::key($thing->name))] = [
                'title' => $thing->name, 'words' => array_values(array_filter([
                    '' === $thing->grain ? '' : 'One row per '.$thing->grain.'.', $thing->meaning, ...$this->told($thing),
                ], static fn (string $words): bool => '' !== $words)),
                'line' => $thing->line, 'thing' => $thing->name, 'rows' => $this->rows($this->worked->ofThing($thing->name)), 'choices' => $this->keyed($thing),
                'shows' => $this->shows($thing),
            ];
        }
        foreach ($this->worked->tables as $key => $table) {
            if (null !== $table->thing && 'thing' === $table->kind) {
                continue;
            }
            $join = $table->join;
            $pieces[Drawing::id((string) $key)] = [
                'title' => null === $this->physical ? $table->name : $this->physical->tables[$key],
                'words' => array_values(array_filter([
                    null === $table->why ? '' : 'Worked out: '.$table->why->words.'.', '' === $table->grain ? '' : 'One row per '.$table->grain.'.',
                ], static fn (string $words): bool => '' !== $words)),
                'line' => $join->line ?? 0, 'thing' => '', 'rows' => $this->rows($table), 'choices' => null === $join ? [] : $this->linked($join),
            ];
        }

        return $pieces;
    }

    /**
     * @return array<int, array{title: string, words: list<string>, line: int, sentence: string, choices: list<array{words: string,
     *     edits: list<array<string, string>>}>}> by number of the line
     */
    public function lines(): array
    {
        $pieces = [];
        $ids = Drawing::joinIds($this->design);
        foreach ($this->design->joins as $n => $join) {
            $sentence = OutlineWriter::join($join)[0];
            $words = [];
            if ($join->isLink()) {
                $table = $this->tableOf($join);
                $words[] = \sprintf(
                    'Many at both ends: %s and %s become a table%s.',
                    Names::small($join->from),
                    Names::small($join->to),
                    null === $table ? '' : \sprintf(' “%s”', null === $this->physical ? mb_strtolower($table->name) : $this->physical->tables[$table->key]),
                );
            } else {
                $words[] = \sprintf(
                    '%s holds the key of %s.',
                    Names::big(Noun::withArticle(Names::small($join->child()))),
                    Noun::withArticle(Names::small('' === $join->role ? $join->parent() : $join->role)),
                );
            }
            $pieces[$ids[$n]] = [
                'title' => $join->isLink() ? 'Many at both ends' : $join->from.' and '.Names::small($join->to), 'words' => $words, 'line' => $join->line,
                'sentence' => $sentence, 'choices' => $join->isLink() ? $this->linked($join) : $this->deleting($join),
            ];
        }

        return $pieces;
    }

    /** @return list<string> what a view of it could show, as an outline says it: its own, and what is known of its parents */
    private function shows(Thing $thing): array
    {
        $shows = array_map(static fn (Attribute $attribute): string => OutlineWriter::shown([], $attribute->name), $thing->attributes);
        foreach ($this->worked->ofThing($thing->name)->references ?? [] as $reference) {
            foreach ($this->worked->tables[$reference->to]->thing->attributes ?? [] as $attribute) {
                $shows[] = OutlineWriter::shown([$reference->role], $attribute->name);
            }
        }

        return $shows;
    }

    private function tableOf(DesignJoin $join): ?WorkedTable
    {
        foreach ($this->worked->tables as $table) {
            if ($table->join === $join) {
                return $table;
            }
        }

        return null;
    }

    /** @return list<string> */
    private function told(Thing $thing): array
    {
        $table = $this->worked->ofThing($thing->name);
        $words = array_map(static fn (Identifier $key): string => Names::big(OutlineWriter::identifier($key)).'.', $thing->keys);
        foreach ($table->primary ?? [] as $column) {
            $why = $table?->columns[$column]->why;
            if (null !== $why) {
                $words[] = \sprintf('Its key is %s. Worked out: %s.', $table?->columns[$column]->name, $why->words);
            }
        }

        return array_values(array_unique($words));
    }

    /** @return list<array{key: string, label: string, words: string}> */
    private function rows(?WorkedTable $table): array
    {
        $rows = [];
        foreach ($table->columns ?? [] as $key => $column) {
            $name = null === $this->physical || null === $table ? (string) $key : $this->physical->columns[$table->key][$key];
            $rows[] = [
                'key' => $name, 'label' => null === $this->physical ? $column->name : $name,
                'words' => trim(\sprintf(
                    '%s%s%s%s',
                    null === $this->physical || null === $table ? $column->type->inWords() : ($this->physical->types[$table->key][$key] ?? ''),
                    $column->required ? ', required' : '',
                    '' === $column->meaning ? '.' : '. '.rtrim($column->meaning, '.').'.',
                    null === $column->why ? '' : ' Worked out: '.$column->why->words.'.',
                )),
            ];
        }

        return $rows;
    }

    /** @return list<array{words: string, edits: list<array<string, string>>}> */
    private function keyed(Thing $thing): array
    {
        $mode = $thing->keyed ?? $this->design->rules->of('keys');
        $name = Noun::withArticle(Names::small($thing->name));
        $choices = [];
        $told = [] !== $thing->keys || [] !== array_filter($thing->attributes, static fn (Attribute $each): bool => $each->unique && $each->required);
        foreach (['number' => 'a number of its own', 'natural' => 'what tells it apart', 'uuid' => 'a UUID of its own'] as $other => $words) {
            if ($other !== $mode && ('natural' !== $other || $told)) {
                $choices[] = [
                    'words' => \sprintf('Let %s be keyed by %s', $name, $words),
                    'edits' => [['what' => 'say', 'of' => $thing->name, 'said' => 'keyed by '.$words]],
                ];
            }
        }
        if (null !== $thing->keyed) {
            $choices[] = [
                'words' => 'Let the rule decide its key', 'edits' => [['what' => 'unsay', 'of' => $thing->name, 'said' => 'keyed by']],
            ];
        }

        return $choices;
    }

    /** @return list<array{words: string, edits: list<array<string, string>>}> */
    private function linked(DesignJoin $join): array
    {
        $of = (string) $join->line;
        $say = static fn (string $words, string $said): array => ['words' => $words, 'edits' => [['what' => 'say', 'of' => $of, 'said' => $said]]];
        $unsay = static fn (string $words, string $said): array => ['words' => $words, 'edits' => [['what' => 'unsay', 'of' => $of, 'said' => $said]]];
        $choices = [];
        if ($join->again) {
            $choices[] = $unsay('The same two are linked once only', 'the same two');
        } else {
            $choices[] = $say('The same two may be linked again', 'the same two may be linked again');
        }
        if ('number' !== $join->keyed) {
            $choices[] = $say('Let a link have a number of its own', 'keyed by a number of its own');
        }
        if (null !== $join->keyed) {
            $choices[] = $unsay('Let the rule decide its key', 'keyed by');
        }
        if ('' === $join->link) {
            $choices[] = $say(
                \sprintf('Call a link “%s %s” by name', Names::small($join->from), Names::small($join->to)),
                \sprintf('called a %s %s', Names::small($join->from), Names::small($join->to)),
            );
        }

        return $choices;
    }

    /** @return list<array{words: string, edits: list<array<string, string>>}> */
    private function deleting(DesignJoin $join): array
    {
        $parent = Names::small($join->parent());
        $choices = [];
        foreach (['RESTRICT' => 'is refused', 'CASCADE' => 'deletes', 'SET NULL' => 'empties'] as $action => $verb) {
            if ($join->onDelete === $action || ('SET NULL' === $action && $join->parents()->least > 0)) {
                continue;
            }
            foreach (OutlineWriter::join($join->with(onDelete: $action)) as $line) {
                if (str_starts_with(ltrim($line), 'deleting ')) {
                    $choices[] = [
                        'words' => \sprintf(
                            'Deleting %s %s%s',
                            Noun::withArticle($parent),
                            $verb,
                            'RESTRICT' === $action ? '' : ' its '.Noun::plural(Names::small($join->child())),
                        ),
                        'edits' => [['what' => 'say', 'of' => (string) $join->line, 'said' => trim($line)]],
                    ];
                }
            }
        }
        if (null !== $join->onDelete) {
            $choices[] = [
                'words' => 'Let the rule decide what deleting does', 'edits' => [['what' => 'unsay', 'of' => (string) $join->line, 'said' => 'deleting']],
            ];
        }

        return $choices;
    }
}
