<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Enumeration;
use Fasti\Core\Wording\Noun;

/** Writes designs as outlines, and each line of one in its usual form. */
final class OutlineWriter
{
    /** Begins of lines within a block that are no attributes. */
    private const LINES = '/^(?:told apart by|looked up|always|trigger|table|in the schema|meaning|keyed by|stored as|sorted as'
        .'|keeps its history$|is valid for a period$|deleting|changing the key|constraint|called an?|the same two may)\b/u';
    private const HEADS = '/^(?:Design|Values of|Ask|View|Materialized view|Routine|Type|Statement)\b|^(?:An?|Each|Every) /u';

    public static function design(Design $design): string
    {
        $blocks = [];
        $head = self::head($design);
        if ([] !== $head) {
            $blocks[] = implode("\n", $head);
        }
        foreach ($design->blocks as $block) {
            if ($block->first) {
                $blocks[] = self::block($block);
            }
        }
        foreach ($design->lists as $list) {
            $blocks[] = self::valueList($list);
        }
        foreach ($design->things as $thing) {
            $blocks[] = implode("\n", self::thing($thing));
        }
        $sentences = array_map(static fn (DesignJoin $join): string => implode("\n", self::join($join)), $design->joins);
        if ([] !== $sentences) {
            $blocks[] = implode("\n", $sentences);
        }
        foreach ($design->questions as $question) {
            $blocks[] = implode("\n", self::question($question));
        }
        foreach ($design->views as $view) {
            $blocks[] = implode("\n", self::view($view));
        }
        foreach ($design->blocks as $block) {
            if (!$block->first) {
                $blocks[] = self::block($block);
            }
        }

        return implode("\n\n", $blocks)."\n";
    }

    /** @return list<string> */
    public static function head(Design $design): array
    {
        $rules = [];
        if ('' !== $design->engine) {
            $rules[] = 'for '.Dialects::of($design->engine)->label();
        }
        if ('' !== $design->begun) {
            $rules[] = 'begun from '.self::quotedUnlessPlain($design->begun);
        }
        if (null !== $design->sorted) {
            $rules[] = 'sorted as '.self::quoted($design->sorted);
        }
        foreach (array_keys(Rules::ALL) as $rule) {
            if (isset($design->rules->set[$rule])) {
                $rules[] = Rules::sentence($rule, $design->rules->set[$rule])
                    .(isset($design->rules->called[$rule]) ? ', as '.implode(' and ', array_map(self::listed(...), $design->rules->called[$rule])) : '')
                    .(isset($design->rules->filled[$rule]) ? ', computed as '.self::quoted($design->rules->filled[$rule]) : '');
            }
        }
        if ('' !== $design->rules->prefix) {
            $rules[] = 'tables begin with '.self::quoted($design->rules->prefix);
        }
        if (null !== $design->rules->longest) {
            $rules[] = 'names have at most '.$design->rules->longest.' characters';
        }
        if ('' === $design->name && [] === $rules) {
            return [];
        }
        $purpose = '' === $design->purpose ? '' : ', '.(1 === preg_match('/["$\n]/', $design->purpose) ? self::quoted($design->purpose) : $design->purpose);

        return ['Design '.self::quoted($design->name).$purpose, ...array_map(static fn (string $rule): string => '  '.$rule, $rules)];
    }

    /** @return list<string> */
    public static function thing(Thing $thing): array
    {
        $lines = [self::thingHead($thing)];
        foreach (self::thingClauses($thing) as $clause) {
            $lines[] = '  '.$clause;
        }
        foreach ($thing->attributes as $attribute) {
            $lines[] = '  '.self::attribute($attribute);
        }
        foreach ($thing->keys as $key) {
            $lines[] = '  '.self::identifier($key);
        }
        foreach ($thing->dependencies as $dependency) {
            $lines[] = '  '.self::dependency($dependency);
        }
        foreach ($thing->conditions as $always) {
            $lines[] = '  '.self::always($always);
        }
        foreach ($thing->lookups as $lookup) {
            $lines[] = '  '.self::lookup($lookup);
        }
        foreach ($thing->triggers as $trigger) {
            $lines[] = '  '.self::trigger($trigger);
        }

        return $lines;
    }

    public static function thingHead(Thing $thing): string
    {
        $grain = $thing->grain;

        return self::headName($thing->name)
            .(null === $thing->kindOf ? '' : ', '.Noun::withArticle('kind').' of '.self::quotedUnlessPlain($thing->kindOf))
            .('' === $thing->from ? '' : ', taken from '.(1 === preg_match('/[,;"$]/', $thing->from) ? self::quoted($thing->from) : $thing->from))
            .('' === $grain ? '' : ', one row per '.(1 === preg_match('/["$;\n]|, (?:an? kind of|taken from) /', $grain) ? self::quoted($grain) : $grain));
    }

    /** @return list<string> */
    public static function thingClauses(Thing $thing): array
    {
        $clauses = [];
        if (null === $thing->table) {
            if ('' !== $thing->schema) {
                $clauses[] = 'in the schema '.self::quoted($thing->schema);
            }
        } else {
            $clauses[] = 'table '.self::quoted($thing->table).('' === $thing->schema ? '' : ' in '.self::quoted($thing->schema));
        }
        if ('' !== $thing->meaning) {
            $clauses[] = 'meaning '.self::quoted($thing->meaning);
        }
        if (null !== $thing->keyed) {
            $clauses[] = 'keyed by '.[
                'number' => 'a number of its own',
                'uuid' => 'a UUID of its own',
                'natural' => 'what tells it apart',
                'none' => 'nothing',
            ][$thing->keyed]
                .(null === $thing->keyName ? '' : ', kept as '.self::quoted($thing->keyName));
        }
        if ($thing->history) {
            $clauses[] = 'keeps its history';
        }
        if ($thing->period) {
            $clauses[] = 'is valid for a period';
        }
        if (null !== $thing->stored) {
            $clauses[] = 'stored as '.self::quoted($thing->stored);
        }
        if (null !== $thing->sorted) {
            $clauses[] = 'sorted as '.self::quoted($thing->sorted);
        }

        return $clauses;
    }

    public static function attribute(Attribute $attribute): string
    {
        $words = [self::name($attribute->name)];
        if ('' !== $attribute->type->kind) {
            $words[] = ($attribute->several ? 'any number of ' : '').$attribute->type->inWords(self::member(...));
        }
        $rest = array_filter([
            $attribute->required ? 'required' : '',
            $attribute->mayBeEmpty ? 'may be empty' : '',
            $attribute->unique ? 'unique' : '',
            $attribute->numbered ? 'numbered by the database' : '',
            null === $attribute->computed ? '' : 'computed as '.self::quoted($attribute->computed).($attribute->whenRead ? ' when read' : ''),
            self::value($attribute->given, $attribute->givenSql, ' unless given'),
            self::value($attribute->filled, $attribute->filledSql, ' for rows that are there'),
            $attribute->whenMade ? 'set when the row is made' : '',
            $attribute->whenChanged ? 'set when the row changes' : '',
            ...array_map(self::limit(...), $attribute->limits),
            $attribute->personal ? 'personal' : '',
            '' === $attribute->unit ? '' : 'measured in '.self::quotedUnlessPlain($attribute->unit),
            self::said('character set', $attribute->charset),
            self::said('sorted as', $attribute->sorted),
            self::said('column', $attribute->column),
            self::said('formerly', $attribute->formerly),
            self::said('meaning', '' === $attribute->meaning ? null : $attribute->meaning),
        ], static fn (string $word): bool => '' !== $word);

        return implode(', ', $words).([] === $rest ? '' : ($attribute->type->lists() ? '; ' : ', ').implode(', ', $rest));
    }

    private static function said(string $words, ?string $what): string
    {
        return null === $what ? '' : $words.' '.self::quoted($what);
    }

    private static function value(?string $value, bool $sql, string $when): string
    {
        if (null === $value) {
            return '';
        }

        return ($sql ? 'computed as '.self::quoted($value) : self::given($value)).$when;
    }

    private static function limit(Limit $limit): string
    {
        return $limit->words.' '.match (true) {
            !$limit->value => $limit->than,
            1 === preg_match('/^-?\d+(\.\d+)?$/', $limit->than) => Amount::decimal($limit->than),
            1 === preg_match('/^\d{4}-\d\d-\d\d/', $limit->than) => $limit->than,
            default => self::quoted($limit->than),
        };
    }

    public static function identifier(Identifier $key): string
    {
        return 'told apart by '.self::listOf($key->parts).(null === $key->name ? '' : ', kept as '.self::quoted($key->name));
    }

    public static function lookup(Lookup $lookup): string
    {
        $parts = [];
        foreach ($lookup->parts as $i => $part) {
            $parts[] = self::part($part, \in_array($i, $lookup->sql, true));
        }

        return ($lookup->unique ? 'looked up as one only by ' : 'looked up by ').Enumeration::of($parts)
            .(null === $lookup->name ? '' : ', kept as '.self::quoted($lookup->name))
            .('' === $lookup->method ? '' : ', with '.self::quoted($lookup->method))
            .(null === $lookup->where ? '' : ', where '.self::quoted($lookup->where))
            .('' === $lookup->comment ? '' : ', meaning '.self::quoted($lookup->comment));
    }

    private static function part(IndexPart $part, bool $sql): string
    {
        return (null === $part->length ? '' : 'the first '.Amount::count($part->length).' characters of ')
            .($sql ? 'computed as '.self::quoted($part->column) : self::listed($part->column)).($part->descending ? ' downwards' : '');
    }

    public static function always(Always $always): string
    {
        return 'always '.self::quoted($always->sql).(null === $always->of ? '' : ' of '.self::listed($always->of))
            .(null === $always->name ? '' : ', kept as '.self::quoted($always->name));
    }

    public static function dependency(Dependency $dependency): string
    {
        return self::listed($dependency->of).' depends on '.self::listOf($dependency->on);
    }

    public static function trigger(Trigger $trigger): string
    {
        return 'trigger '.self::quoted($trigger->name).', '.strtolower($trigger->timing.' '.$trigger->event).', '.self::long($trigger->body)
            .('' === $trigger->statement ? '' : ', made by '.self::long($trigger->statement));
    }

    /** @return list<string> */
    public static function join(DesignJoin $join): array
    {
        $holds = $join->fromHolds() && !$join->isLink();
        $lines = [
            self::half($join->from, $join->verb, $join->count, $join->to, $join->from === $join->to, $join->isLink() || $holds ? self::through($join) : ''),
        ];
        if ('' !== $join->verbBack || [0, null] !== [$join->countBack->least, $join->countBack->most]) {
            $verb = '' === $join->verbBack ? 'is referred to by' : $join->verbBack;
            $lines[0] .= '; '.self::half(
                $join->to,
                $verb,
                $join->countBack,
                $join->from,
                $join->from === $join->to,
                $join->isLink() || $holds ? '' : self::through($join),
                false,
            );
        }
        $lines[0] .= '.';
        if ('' !== $join->link) {
            $lines[] = '  called '.Noun::withArticle(self::listed($join->link));
        }
        if (null !== $join->table) {
            $lines[] = '  table '.self::quoted($join->table);
        }
        if (null !== $join->keyed) {
            $lines[] = '  keyed by '.(['number' => 'a number of its own', 'uuid' => 'a UUID of its own'][$join->keyed] ?? 'both ends');
        }
        foreach ($join->attributes as $attribute) {
            $lines[] = '  '.self::attribute($attribute);
        }
        foreach ($join->keys as $key) {
            $lines[] = '  '.self::identifier($key);
        }
        if ($join->again) {
            $lines[] = '  the same two may be linked again';
        }
        if (null !== $join->constraint) {
            $lines[] = '  constraint '.self::quoted($join->constraint);
        }
        $parent = $join->isLink() ? $join->from : $join->parent();
        $child = $join->isLink() ? $join->to : $join->child();
        if (null !== $join->onDelete) {
            $lines[] = '  deleting '.self::spoken($parent).' '.self::action($join->onDelete, $child, 'deletes');
        }
        if (null !== $join->onUpdate) {
            $lines[] = '  changing the key of '.self::spoken($parent).' '.self::action($join->onUpdate, $child, 'changes');
        }

        return $lines;
    }

    private static function half(string $from, string $verb, Count $count, string $to, bool $self, string $through, bool $first = true): string
    {
        $noun = 1 === preg_match(self::MUST_QUOTE, $to) ? self::quoted($to) : Names::small($to);
        $many = $count->many() && !str_starts_with($noun, '"');

        return self::spoken($from, $first).' '.$verb.' '.$count->inWords().' '.($many ? self::plural($noun) : $noun).$through;
    }

    private const MUST_QUOTE = '/[,;"$.]|[^\p{L}\p{M}\p{N} _\-\'’()]|^[Oo]ther(?: |$)|^(?:[Aa]n?|[Tt]he|[Ee]ach|[Ee]very) | (?:as|through|to) |^\s|\s$|  '
        .'|(?:exactly one|at (?:most|least) (?:one|[\d,]+)|one or more|any number of|\d or more) |\d to \d/u';

    /** A plural under which the thing is still found. */
    private static function plural(string $noun): string
    {
        $plural = Noun::plural($noun);

        return Names::key($plural) === Names::key($noun) ? $plural : $noun;
    }

    private static function spoken(string $name, bool $capital = false): string
    {
        if (1 === preg_match(self::MUST_QUOTE, $name)) {
            return ($capital ? 'A ' : 'a ').self::quoted($name);
        }

        return Noun::withArticle(Names::small($name), $capital);
    }

    private static function through(DesignJoin $join): string
    {
        return ('' === $join->role ? '' : ' as '.self::phrase($join->role))
            .([] === $join->through ? '' : ' through '.implode(' and ', array_map(self::phrase(...), $join->through)))
            .([] === $join->key ? '' : ' to '.implode(' and ', array_map(self::phrase(...), $join->key)));
    }

    private static function phrase(string $name): string
    {
        return 1 === preg_match(self::MUST_QUOTE, $name) || 1 === preg_match('/\band\b/u', $name) ? self::quoted($name) : $name;
    }

    private static function action(string $sql, string $child, string $does): string
    {
        $them = 'its '.(1 === preg_match(self::MUST_QUOTE, $child) ? self::quoted($child) : self::plural(Names::small($child)));

        return match ($sql) {
            'CASCADE' => "$does $them",
            'SET NULL' => "empties $them",
            'SET DEFAULT' => "gives $them the usual one",
            'RESTRICT' => 'is refused',
            default => 'is refused in the end',
        };
    }

    public static function valueList(ValueList $list): string
    {
        $lines = ['Values of '.self::listed($list->name)];
        foreach ($list->values as $value => $meaning) {
            $lines[] = '  '.self::member((string) $value)
                .('' === $meaning ? '' : ', '.(1 === preg_match('/["$\n]/', $meaning) ? self::quoted($meaning) : $meaning));
        }

        return implode("\n", $lines);
    }

    /** @return list<string> */
    public static function question(OpenQuestion $question): array
    {
        $lines = ['Ask '.self::quoted($question->text).([] === $question->of ? '' : ', of '.self::listOf($question->of))];
        if ('' !== $question->answer) {
            $lines[] = '  answer '.self::quoted($question->answer)
                .('' === $question->by ? '' : ', by '.(1 === preg_match('/["$;\n]/', $question->by) ? self::quoted($question->by) : $question->by));
        }

        return $lines;
    }

    /** @return list<string> */
    public static function view(DesignView $view): array
    {
        $lines = ['View '.self::listed($view->name).', over '.self::listed($view->of)];
        if ('' !== $view->meaning) {
            $lines[] = '  meaning '.self::quoted($view->meaning);
        }
        foreach ($view->shows as $shown) {
            $lines[] = '  shows '.self::shown($shown['path'], $shown['attribute']).('' === $shown['as'] ? '' : ' as '.self::within($shown['as']));
        }

        return $lines;
    }

    /**
     * "town of its school": an attribute at the end of a way.
     *
     * @param list<string> $path
     */
    public static function shown(array $path, string $attribute): string
    {
        return self::within($attribute).implode(
            '',
            array_map(static fn (string $of): string => ' of its '.self::within(Names::small($of)), array_reverse($path)),
        );
    }

    public static function block(SqlBlock $block): string
    {
        return ucfirst($block->kind).' '.self::quoted($block->name).('' === $block->schema ? '' : ' in '.self::quoted($block->schema))
            .('' === $block->engine ? '' : ', for '.Dialects::of($block->engine)->label()).($block->first ? ', before the tables' : '')
            .([] === $block->shows ? '' : ', showing '.implode(' and ', array_map(self::listed(...), $block->shows)))
            .('' === $block->meaning ? '' : ', meaning '.self::quoted($block->meaning)).', '.self::long($block->sql);
    }

    // ---- names and texts ----

    public static function quoted(string $text): string
    {
        return 1 === preg_match('/[\r\n]/', $text) ? self::long($text) : Quotes::around($text);
    }

    /** A text over several lines, between signs that it does not hold: `$$`, `$a$`, … */
    public static function long(string $text): string
    {
        for ($tag = '', $n = 0; str_contains($text, '$'.$tag.'$') || str_ends_with($text, '$'.$tag); ++$n) {
            $tag = 'q'.(0 === $n ? '' : $n);
        }

        return '$'.$tag.'$'.$text.'$'.$tag.'$';
    }

    private static function quotedUnlessPlain(string $text): string
    {
        return 1 === preg_match('/^[\p{L}\p{N}_%°µ\/][\p{L}\p{N} _%°µ\/²³.\-]*(?<! )$/u', $text) && !str_contains($text, '  ') ? $text : self::quoted($text);
    }

    /** At the beginning of a line within a block. */
    public static function name(string $name): string
    {
        return self::isPlain($name) && 1 !== preg_match(self::LINES, $name) && 1 !== preg_match('/ depends on |^shows /u', $name)
            && 1 !== preg_match(Names::SAYS_OF_ANOTHER, $name) ? $name : self::quoted($name);
    }

    /** At the margin. */
    public static function headName(string $name): string
    {
        return self::isPlain($name) && 1 !== preg_match(self::HEADS, $name) ? $name : self::quoted($name);
    }

    /** In a list of names. */
    private static function listed(string $name): string
    {
        return self::isPlain($name) && 1 !== preg_match('/\band\b|\bof\b| downwards$| depends on |^the first | over /u', $name) ? $name : self::quoted($name);
    }

    private static function within(string $name): string
    {
        return 1 === preg_match('/ as /u', $name) ? self::quoted($name) : self::listed($name);
    }

    private static function isPlain(string $name): bool
    {
        return 1 === preg_match(
            '/^[\p{L}\p{M}\p{N}_(][\p{L}\p{M}\p{N} _\-\'’.()]*$/u',
            $name,
        ) && !str_ends_with($name, ' ') && !str_contains($name, '  ') && !str_starts_with($name, '--');
    }

    /** A value of a list. */
    private static function member(string $value): string
    {
        return 1 === preg_match('/^[\p{L}\p{M}\p{N}_][\p{L}\p{M}\p{N} _\-\'’.()\/]*$/u', $value) && !str_ends_with($value, ' ') && !str_contains($value, '  ')
            && 1 !== preg_match(
                '/^(?:required|unique|personal|may be empty|the )/u',
                $value,
            ) && !str_starts_with($value, '--') && 1 !== preg_match('/^(?:answer|meaning) /', $value)
            ? $value : self::quoted($value);
    }

    private static function given(string $value): string
    {
        return match (true) {
            '' === $value => 'empty text',
            1 === preg_match('/^-?\d+(?:\.\d+)?$/', $value) && '-0' !== $value => Amount::decimal($value),
            1 === preg_match(
                '/^[\p{L}\p{N}_][\p{L}\p{N} _\-.]*$/u',
                $value,
            ) && !str_ends_with($value, ' ') && !str_contains($value, '  ') && 'empty text' !== $value
                && 1 !== preg_match(
                    '/^(?:computed as|not |before|after|at |more|less|\d[\d,]*$)/u',
                    $value,
                ) && 1 !== preg_match('/^[\d,.]+$/', $value) => $value,
            default => self::quoted($value),
        };
    }

    /** @param list<string> $names */
    private static function listOf(array $names): string
    {
        return Enumeration::of(array_map(self::listed(...), $names));
    }
}
