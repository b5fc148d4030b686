<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/**
 * Changes of an outline that were made in its drawing or its ledger. Each touches the lines that say it and no others, so that
 * comments, order and what is not understood stay.
 */
final class Edits
{
    public Outline $outline;
    /** @var list<string> */
    public array $lines;

    public readonly EditedText $names;

    public function __construct(string $text)
    {
        $this->names = new EditedText($this);
        $this->outline = Outline::read($text);
        $this->lines = $this->outline->lines;
    }

    public function text(): string
    {
        return implode("\n", $this->lines);
    }

    /** @throws EditError */
    public static function of(string $text, Edit $edit): string
    {
        $self = new self($text);
        match ($edit->what) {
            'add thing' => $self->addThing($edit->name, $edit->said),
            'rename thing' => $self->renameThing($edit->of, $edit->name),
            'remove thing' => $self->removeThing($edit->of),
            'set grain' => $self->setGrain($edit->of, $edit->said),
            'add attribute' => $self->addAttribute($edit->of, $edit->said, $edit->meaning),
            'set attribute' => $self->setAttribute($edit->of, $edit->name, $edit->said, $edit->meaning),
            'rename attribute' => $self->renameAttribute($edit->of, $edit->name, $edit->said),
            'remove attribute' => $self->removeAttribute($edit->of, $edit->name),
            'move attribute' => $self->moveAttribute($edit->of, $edit->name, (int) $edit->said),
            default => $self->beside($edit),
        };

        return $self->text();
    }

    /** What is said beside things and their attributes. */
    private function beside(Edit $edit): void
    {
        match ($edit->what) {
            'add sentence' => $this->addSentence($edit->said),
            'set sentence' => $this->setSentence((int) $edit->name, $edit->said),
            'remove sentence' => $this->removeSentence((int) $edit->name),
            'set rule' => $this->setRule($edit->name, $edit->said),
            'set engine' => $this->setHead('/^\s+for /u', '' === $edit->said ? null : 'for '.$edit->said),
            'say' => $this->say($edit->of, $edit->said),
            'unsay' => $this->unsay($edit->of, $edit->said),
            'add view' => $this->addView($edit->name, $edit->of, $edit->said),
            'ask' => $this->ask($edit->said, $edit->of),
            'answer' => $this->answer($edit->of, $edit->said, $edit->name),
            default => throw new EditError(\sprintf('There is no change “%s”.', $edit->what)),
        };
    }

    // ---- things ----

    public function addThing(string $name, string $grain = ''): void
    {
        $name = $this->named($name);
        if (null !== $this->outline->design->thing($name)) {
            throw new EditError(\sprintf('There is a thing “%s” already.', $name));
        }
        $head = OutlineWriter::thingHead(new Thing($name, $grain));
        // Things stand together, before the sentences.
        $after = null;
        foreach ($this->outline->statements as $n => $statement) {
            if (\in_array($statement->kind, ['thing', 'design', 'list'], true)) {
                $after = $n;
            }
        }
        $at = null === $after ? 0 : $this->endOf($after) + 1;
        $this->insert($at, 0 === $at ? [$head, ''] : ['', $head]);
    }

    public function renameThing(string $was, string $name): void
    {
        $thing = $this->thing($was);
        $name = $this->named($name);
        $other = $this->outline->design->thing($name);
        if (null !== $other && $other !== $thing) {
            throw new EditError(\sprintf('There is a thing “%s” already.', $other->name));
        }
        $key = Names::key($thing->name);
        $map = static fn (string $said): string => Names::key($said) === $key ? $name : $said;
        $this->names->reprint($map, static fn (string $of): bool => true, true);
    }

    public function setGrain(string $name, string $grain): void
    {
        $thing = $this->thing($name);
        $grain = trim(preg_replace('/^one row per /i', '', trim($grain)) ?? $grain);
        $statement = $this->outline->statements[$this->statementAt($thing->line)];
        $this->replace($statement->from, $statement->to, explode("\n", OutlineWriter::thingHead($thing->with(grain: $grain))));
    }

    public function removeThing(string $name): void
    {
        $thing = $this->thing($name);
        $key = Names::key($thing->name);
        $gone = [];
        foreach ($this->outline->statements as $n => $statement) {
            $isThing = 'thing' === $statement->kind && $statement->from + 1 === $thing->line;
            $join = 'join' === $statement->kind ? $this->joinAt($statement->from + 1) : null;
            if ($isThing || (null !== $join && \in_array($key, [Names::key($join->from), Names::key($join->to)], true))) {
                $gone[] = [$statement->from, $this->endOf($n)];
            }
        }
        foreach (array_reverse($gone) as [$from, $to]) {
            $this->cut($from, $to);
        }
    }

    // ---- attributes ----

    /** @param string $said a line as it stands in the outline: "name, text up to 80, required" */
    public function addAttribute(string $thing, string $said, ?string $meaning = null): void
    {
        $of = $this->thing($thing);
        $attribute = $this->attributeOf($said, $meaning);
        if (null !== $of->attribute($attribute->name)) {
            throw new EditError(\sprintf('%s has “%s” already.', $of->name, $attribute->name));
        }
        $head = $this->statementAt($of->line);
        $last = $head;
        foreach ($this->outline->within($head) as $n) {
            if (\in_array($this->outline->statements[$n]->kind, ['attribute', 'clause'], true)) {
                $last = $n;
            }
        }
        $this->insert($this->outline->statements[$last]->to + 1, ['  '.OutlineWriter::attribute($attribute)]);
    }

    /** @param string $said the whole line, with the name it has from now on */
    public function setAttribute(string $thing, string $name, string $said, ?string $meaning = null): void
    {
        $of = $this->thing($thing);
        $was = $this->attribute($of, $name);
        $attribute = $this->attributeOf($said, $meaning ?? $was->meaning);
        if (Names::key($was->name) !== Names::key($attribute->name) && null !== $of->attribute($attribute->name)) {
            throw new EditError(\sprintf('%s has “%s” already.', $of->name, $attribute->name));
        }
        $attribute = $this->formerly($was, $attribute);
        $statement = $this->outline->statements[$this->statementAt($was->line)];
        $this->replace($statement->from, $statement->to, explode("\n", '  '.OutlineWriter::attribute($attribute)));
        if ($was->name !== $attribute->name) {
            $this->again();
            $this->names->renamed($of->name, $was->name, $attribute->name);
        }
    }

    public function renameAttribute(string $thing, string $was, string $name): void
    {
        $of = $this->thing($thing);
        $attribute = $this->attribute($of, $was);
        $name = $this->named($name);
        $known = $of->attribute($name);
        if (null !== $known && $known !== $attribute) {
            throw new EditError(\sprintf('%s has “%s” already.', $of->name, $known->name));
        }
        $statement = $this->outline->statements[$this->statementAt($attribute->line)];
        $this->replace(
            $statement->from,
            $statement->to,
            explode("\n", '  '.OutlineWriter::attribute($this->formerly($attribute, $attribute->with(name: $name)))),
        );
        $this->again();
        $this->names->renamed($of->name, $attribute->name, $name);
    }

    /** A design that began with a source remembers what a field is called there, so that a rename is one. */
    private function formerly(Attribute $was, Attribute $is): Attribute
    {
        $design = $this->outline->design;
        if ('' === $design->begun || null !== $is->formerly || $was->name === $is->name) {
            return $is;
        }
        $column = $was->column ?? (new Identifiers($design->rules, Physical::dialectOf($design)->longestName()))->column($was->name);

        return $is->with(formerly: $was->formerly ?? $column, column: null);
    }

    public function removeAttribute(string $thing, string $name): void
    {
        $attribute = $this->attribute($this->thing($thing), $name);
        $statement = $this->outline->statements[$this->statementAt($attribute->line)];
        $this->cut($statement->from, $statement->to);
    }

    /** @param int $place among the attributes of its thing, from 0 */
    public function moveAttribute(string $thing, string $name, int $place): void
    {
        $of = $this->thing($thing);
        $attribute = $this->attribute($of, $name);
        $statement = $this->outline->statements[$this->statementAt($attribute->line)];
        $others = array_values(array_filter($of->attributes, static fn (Attribute $each): bool => $each !== $attribute));
        if ([] === $others) {
            return;
        }
        $said = \array_slice($this->lines, $statement->from, $statement->to - $statement->from + 1);
        $target = $others[min(max(0, $place), \count($others) - 1)];
        $there = $this->outline->statements[$this->statementAt($target->line)];
        $at = $place >= \count($others) ? $there->to + 1 : $there->from;
        $this->insert($at, $said);
        $shift = $at <= $statement->from ? \count($said) : 0;
        array_splice($this->lines, $statement->from + $shift, \count($said));
        $this->again();
    }

    // ---- sentences ----

    public function addSentence(string $said): void
    {
        $lines = $this->sentence($said);
        $after = null;
        foreach ($this->outline->statements as $n => $statement) {
            if ('join' === $statement->kind) {
                $after = $n;
            }
        }
        if (null !== $after) {
            $this->insert($this->endOf($after) + 1, $lines);

            return;
        }
        foreach ($this->outline->statements as $n => $statement) {
            if ('thing' === $statement->kind) {
                $after = $n;
            }
        }
        $this->insert(null === $after ? \count($this->lines) : $this->endOf($after) + 1, ['', ...$lines]);
    }

    /** @param int $line in which it stands */
    public function setSentence(int $line, string $said): void
    {
        $statement = $this->outline->statements[$this->statementAt($line)];
        $this->replace($statement->from, $statement->to, $this->sentence($said));
    }

    public function removeSentence(int $line): void
    {
        $n = $this->statementAt($line);
        $this->cut($this->outline->statements[$n]->from, $this->endOf($n));
    }

    /** @return list<string> */
    private function sentence(string $said): array
    {
        $said = trim($said);
        $names = array_map(static fn (Thing $thing): string => OutlineWriter::headName($thing->name), $this->outline->design->things);
        $read = Outline::read(implode("\n", $names)."\n".$said);
        if ([] !== $read->faults || 1 !== \count($read->design->joins)) {
            throw new EditError($read->faults[0]->message ?? 'This is no sentence between two things.');
        }

        return [OutlineWriter::join($read->design->joins[0])[0]];
    }

    // ---- the whole ----

    public function setRule(string $rule, string $setting): void
    {
        $sentences = Rules::ALL[$rule][1] ?? throw new EditError(\sprintf('There is no rule “%s”.', $rule));
        $sentence = $sentences[$setting] ?? throw new EditError(\sprintf('The rule has no setting “%s”.', $setting));
        $pattern = '/^\s+(?:'.implode('|', array_map(static fn (string $each): string => preg_quote($each, '/'), $sentences)).')(?:,.*)?\s*$/u';
        $this->setHead($pattern, Rules::usual($rule) === $setting ? null : $sentence);
    }

    /** Puts a line into the block of the design in place of one that matches; null takes it away. */
    private function setHead(string $pattern, ?string $said): void
    {
        $head = null;
        foreach ($this->outline->statements as $n => $statement) {
            if ('design' === $statement->kind) {
                $head = $n;
            }
        }
        if (null === $head) {
            if (null === $said) {
                return;
            }
            $this->insert(0, ['Design '.OutlineWriter::quoted($this->outline->design->name), '']);
            $head = 0;
            $this->again();
        }
        foreach ($this->outline->within($head) as $n) {
            $statement = $this->outline->statements[$n];
            if (1 === preg_match($pattern, $this->lines[$statement->from])) {
                if (null === $said) {
                    $this->cut($statement->from, $statement->to);
                } else {
                    $this->replace($statement->from, $statement->to, ['  '.$said]);
                }

                return;
            }
        }
        if (null !== $said) {
            $this->insert($this->outline->statements[$this->lastOf($head)]->to + 1, ['  '.$said]);
        }
    }

    /**
     * Additivity a line to the block of a thing, or of the sentence in that line: "told apart by …", "keyed by …", "deleting …". One that
     * begins alike and can be said once only is replaced.
     */
    public function say(string $of, string $said): void
    {
        $head = $this->blockOf($of);
        $single = '/^\s+(keyed by|keeps its history|is valid for a period|deleting|changing the key|called|the same two|meaning) ?/u';
        $lead = 1 === preg_match($single, '  '.$said, $m) ? $m[1] : null;
        foreach ($this->outline->within($head) as $n) {
            $statement = $this->outline->statements[$n];
            if (null !== $lead && str_starts_with(ltrim($this->lines[$statement->from]), $lead)) {
                $this->replace($statement->from, $statement->to, ['  '.trim($said)]);

                return;
            }
        }
        $this->insert($this->outline->statements[$this->lastOf($head)]->to + 1, ['  '.trim($said)]);
    }

    /** Takes a line of a block away again, by how it begins. */
    public function unsay(string $of, string $begins): void
    {
        foreach ($this->outline->within($this->blockOf($of)) as $n) {
            $statement = $this->outline->statements[$n];
            if (str_starts_with(ltrim($this->lines[$statement->from]), $begins)) {
                $this->cut($statement->from, $statement->to);

                return;
            }
        }
    }

    /** @param string $shows what it shows, a line each: "name", "town of its school" */
    public function addView(string $name, string $of, string $shows): void
    {
        $thing = $this->thing($of);
        $lines = array_values(array_filter(array_map(trim(...), explode("\n", $shows)), static fn (string $line): bool => '' !== $line));
        if ([] === $lines) {
            throw new EditError('Choose what the view shows.');
        }
        foreach ($this->outline->design->views as $view) {
            if (Names::key($view->name) === Names::key($name)) {
                throw new EditError(\sprintf('There is a view “%s” already.', $view->name));
            }
        }
        $head = OutlineWriter::view(new DesignView($this->named($name), $thing->name, []))[0];
        $this->insert(\count($this->lines), ['', $head, ...array_map(static fn (string $line): string => '  shows '.$line, $lines)]);
    }

    public function ask(string $question, string $of): void
    {
        $about = array_values(array_filter(array_map(trim(...), explode("\n", $of)), static fn (string $each): bool => '' !== $each));
        $this->insert(\count($this->lines), ['', ...OutlineWriter::question(new OpenQuestion(trim($question), $about))]);
    }

    public function answer(string $question, string $answer, string $by): void
    {
        foreach ($this->outline->design->questions as $each) {
            if ($each->text === $question) {
                $n = $this->statementAt($each->line);
                $this->replace(
                    $this->outline->statements[$n]->from,
                    $this->endOf($n),
                    OutlineWriter::question(new OpenQuestion($each->text, $each->of, trim($answer), trim($by))),
                );

                return;
            }
        }
        throw new EditError(\sprintf('“%s” is not asked here.', $question));
    }

    // ---- names ----

    private function attributeOf(string $said, ?string $meaning = null): Attribute
    {
        $read = Outline::read("Thing\n  ".trim($said));
        $attribute = $read->design->things[0]->attributes[0] ?? null;
        if ([] !== $read->faults || null === $attribute || 2 !== \count($read->statements)) {
            throw new EditError($read->faults[0]->message ?? \sprintf('“%s” is nothing that is known of a thing.', trim($said)));
        }

        return null === $meaning || '' !== $attribute->meaning ? $attribute : $attribute->with(meaning: trim($meaning));
    }

    private function named(string $name): string
    {
        $name = trim(preg_replace('/\s+/u', ' ', $name) ?? $name);
        if ('' === $name) {
            throw new EditError('It needs a name.');
        }

        return $name;
    }

    private function thing(string $name): Thing
    {
        return $this->outline->design->thing($name) ?? throw new EditError(\sprintf('There is no thing “%s”.', $name));
    }

    private function attribute(Thing $thing, string $name): Attribute
    {
        return $thing->attribute($name) ?? throw new EditError(\sprintf('%s has no “%s”.', $thing->name, $name));
    }

    public function joinAt(int $line): ?DesignJoin
    {
        foreach ($this->outline->design->joins as $join) {
            if ($join->line === $line) {
                return $join;
            }
        }

        return null;
    }

    // ---- lines ----

    /** The number of the statement that begins in a line, from 1. */
    private function statementAt(int $line): int
    {
        foreach ($this->outline->statements as $n => $statement) {
            if ($statement->from === $line - 1) {
                return $n;
            }
        }
        throw new EditError(\sprintf('Nothing begins in line %d any more.', $line));
    }

    /** A thing by its name, or a sentence by its line. */
    private function blockOf(string $of): int
    {
        return 1 === preg_match('/^\d+$/', $of) ? $this->statementAt((int) $of) : $this->statementAt($this->thing($of)->line);
    }

    private function lastOf(int $head): int
    {
        $last = $head;
        foreach ($this->outline->within($head) as $n) {
            if (!\in_array($this->outline->statements[$n]->kind, ['blank', 'comment'], true)) {
                $last = $n;
            }
        }

        return $last;
    }

    /** The last line of a block. */
    private function endOf(int $head): int
    {
        return $this->outline->statements[$this->lastOf($head)]->to;
    }

    /** @param list<string> $lines */
    private function insert(int $at, array $lines): void
    {
        array_splice($this->lines, $at, 0, $lines);
        $this->again();
    }

    /** @param list<string> $lines */
    private function replace(int $from, int $to, array $lines): void
    {
        array_splice($this->lines, $from, $to - $from + 1, $lines);
        $this->again();
    }

    private function cut(int $from, int $to): void
    {
        array_splice($this->lines, $from, $to - $from + 1);
        // Two blank lines where a block stood become one.
        if ('' === trim($this->lines[$from] ?? '') && ($from <= 0 || '' === trim($this->lines[$from - 1] ?? ''))) {
            array_splice($this->lines, $from, 1);
        }
        $this->again();
    }

    public function again(): void
    {
        $this->outline = Outline::read(implode("\n", $this->lines));
        $this->lines = $this->outline->lines;
    }
}
