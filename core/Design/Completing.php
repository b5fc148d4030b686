<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Wording\Noun;

/** What could stand at a place of an outline. */
final class Completing
{
    private const MOST = 30;
    private const COUNTED = '/^(.*?(?:exactly one|at (?:most|least) one|one or more|any number of|\d[\d,]* (?:or more|to \d[\d,]*)'
        .'|exactly \d+|at (?:most|least) \d+)) (.*)$/ui';
    private const COUNTS = ['exactly one ', 'at most one ', 'one or more ', 'any number of ', '1 to 3 '];
    private const CLAUSES = [
        'required', 'unique', 'personal', 'may be empty', 'set when the row is made', 'set when the row changes', 'not before ', 'not after ', 'at least ',
        'at most ',
        'measured in ', 'meaning "', 'column "', 'computed as "', 'formerly "',
    ];
    private const OF_THINGS = [
        'told apart by ', 'looked up by ', 'always "', 'keyed by a number of its own', 'keyed by what tells it apart', 'keyed by a UUID of its own',
        'keeps its history', 'is valid for a period', 'meaning "', 'table "',
    ];
    private const OF_JOINS = [
        'told apart by ', 'called a ', 'the same two may be linked again', 'keyed by a number of its own', 'keyed by both ends', 'deleting ', 'table "',
        'constraint "',
    ];
    private const HEADS = ['Values of ', 'Ask "', 'View ', 'Design "'];

    /**
     * @param int $line   from 1
     * @param int $column in characters from 0, where the cursor stands
     *
     * @return array{from: int, options: list<array{label: string, detail: string}>} the column from which an option replaces what is there
     */
    public static function at(string $text, int $line, int $column): array
    {
        $lines = explode("\n", $text);
        $before = mb_substr($lines[$line - 1] ?? '', 0, $column);
        if (1 === substr_count($before, '"') % 2) {
            return ['from' => $column, 'options' => []];
        }
        // The line that is being written is not understood yet; the rest is.
        $others = $lines;
        $others[$line - 1] = '';
        $outline = Outline::read(implode("\n", $others));
        [$lead, $options] = 1 === preg_match('/^\s/', $before)
            ? self::inside($outline, self::head($lines, $line - 1), ltrim($before)) : self::margin($outline, $before);
        $typed = mb_strtolower($lead);
        $found = [];
        foreach ($options as $label => $detail) {
            $label = (string) $label;
            if ($label !== $lead && ('' === $typed || str_contains(mb_strtolower($label), $typed))) {
                $found[] = ['label' => $label, 'detail' => $detail];
            }
        }
        usort(
            $found,
            static fn (array $a, array $b): int => str_starts_with(mb_strtolower($b['label']), $typed) <=> str_starts_with(mb_strtolower($a['label']), $typed),
        );

        return ['from' => $column - mb_strlen($lead), 'options' => \array_slice($found, 0, self::MOST)];
    }

    /** @param list<string> $lines */
    private static function head(array $lines, int $at): string
    {
        for ($i = $at - 1; $i >= 0; --$i) {
            if (1 === preg_match('/^[^\s-]/', $lines[$i])) {
                return $lines[$i];
            }
        }

        return '';
    }

    /** @return array{string, array<string, string>} what is there of the word, and what it could become */
    private static function margin(Outline $outline, string $before): array
    {
        $things = $outline->design->things;
        if (1 !== preg_match('/^(?:An?|Each|Every) /u', $before)) {
            $options = [];
            foreach ($things as $thing) {
                $options[Noun::withArticle(Names::small($thing->name), true).' '] = 'begins a sentence';
            }

            return [$before, $options + array_fill_keys(self::HEADS, '')];
        }
        $subject = preg_replace('/^(?:An?|Each|Every) /u', '', $before) ?? '';
        $begins = static fn (Thing $thing): bool => str_starts_with(Names::key($subject).' ', Names::key($thing->name).' ');
        if (!str_contains($before, ';') && [] === array_filter($things, $begins)) {
            $options = [];
            foreach ($things as $thing) {
                $options[Noun::withArticle(Names::small($thing->name), true).' '] = 'begins a sentence';
            }

            return [$before, $options];
        }
        $half = ltrim(strrchr($before, ';') ?: $before, '; ');
        $second = str_contains($before, ';');
        if (1 === preg_match(self::COUNTED, $half, $m)) {
            $many = 1 !== preg_match('/(?:exactly|at most) one$/u', $m[1]);
            $rest = $m[2];
            $options = [];
            foreach ($things as $thing) {
                $options[($many ? Noun::plural(Names::small($thing->name)) : Names::small($thing->name)).($second ? '.' : '; ')] = $thing->grain;
            }

            return [$rest, $options];
        }
        if ($second && 1 !== preg_match('/^an? \S+ /ui', $half)) {
            $options = [];
            foreach ($things as $thing) {
                $options[Noun::withArticle(Names::small($thing->name)).' '] = '';
            }

            return [$half, $options];
        }
        // A verb is theirs to choose; after it comes how many.
        $last = str_ends_with($before, ' ') ? '' : ltrim((string) (strrchr($before, ' ') ?: $before));

        return [$last, array_fill_keys(self::COUNTS, 'how many')];
    }

    /** @return array{string, array<string, string>} */
    private static function inside(Outline $outline, string $head, string $before): array
    {
        if (str_starts_with($head, 'Design ')) {
            $options = [];
            foreach (Rules::ALL as [$about, $settings]) {
                foreach ($settings as $sentence) {
                    $options[$sentence] = $about;
                }
            }
            foreach (Dialects::written() as $dialect) {
                $options['for '.self::label($dialect)] = 'the engine';
            }

            return [$before, $options];
        }
        $sentence = 1 === preg_match('/^(?:An?|Each|Every) /u', $head);
        $thing = $sentence ? null : self::thingOf($outline, $head);
        if (1 === preg_match('/^(told apart by|looked up by|looked up as one only by) (.*)$/u', $before, $m)) {
            $last = trim((string) (preg_split('/, | and /u', $m[2]) ?: [''])[\count(preg_split('/, | and /u', $m[2]) ?: ['']) - 1]);

            return [$last, self::parts($outline, $thing)];
        }
        $comma = max((int) mb_strrpos($before, ','), (int) mb_strrpos($before, ';'));
        if (0 === $comma) {
            $options = array_fill_keys($sentence ? self::OF_JOINS : self::OF_THINGS, '');
            foreach ($sentence ? $outline->design->things : [] as $one) {
                $options['deleting '.Noun::withArticle(Names::small($one->name)).' is refused'] = '';
                $options['deleting '.Noun::withArticle(Names::small($one->name)).' deletes its '] = '';
            }

            return [$before, $options];
        }
        $part = ltrim(mb_substr($before, $comma + 1));
        foreach (['not before ', 'not after ', 'before ', 'after '] as $limit) {
            if (str_starts_with($part, $limit)) {
                return [substr($part, \strlen($limit)), self::parts($outline, $thing)];
            }
        }
        if (1 === preg_match('/^[^,;]*,[^,;]*$/u', $before)) {
            $options = array_fill_keys(TypeReader::words(), '');
            foreach ($outline->design->lists as $list) {
                $options['one of the '.$list->name] = 'a list of this design';
            }

            return [$part, $options];
        }

        return [$part, array_fill_keys(self::CLAUSES, '')];
    }

    /** @return array<string, string> what rows of a thing can be told apart by */
    private static function parts(Outline $outline, ?Thing $thing): array
    {
        $options = [];
        foreach ($thing->attributes ?? [] as $attribute) {
            $options[$attribute->name] = $attribute->type->inWords();
        }
        foreach (null === $thing ? [] : $outline->design->joins as $join) {
            if (!$join->isLink() && null !== $thing && Names::key($join->child()) === Names::key($thing->name)) {
                $options['' === $join->role ? Names::small($join->parent()) : $join->role] = 'leads to '.$join->parent();
            }
        }

        return $options;
    }

    private static function thingOf(Outline $outline, string $head): ?Thing
    {
        $name = trim(explode(',', $head)[0], " \"\t");

        return $outline->design->thing($name);
    }

    private static function label(Dialect $dialect): string
    {
        return $dialect->label();
    }
}
