<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\Quotes;

/**
 * Reads a condition as people write it: "year is 2025", "month is at least 4", "species kind is one of fish, eel", "day is in last month".
 * The signs = <> > >= < <= are understood as well. Values with a comma stand in single quotes. Several are joined by "or" and "and", with brackets; of
 * what stands elsewhere it says "order has line (returned is yes)" or "customer has no order (year is 2025)".
 */
final readonly class ConditionText
{
    public const HELP = 'what is looked at, then is, is not, is over, is at least, is under, is at most, is between … and …, '
        .'is in (a period), begins with, contains, is none or is given, and values with commas between them; several with “or”, “and” and brackets; '
        .'or “order has line (returned is yes)”, “customer has no order”';
    /** The longer ones first, so that "is not none" is not taken for "is not". */
    private const WORDS = [
        'is not none' => Test::Given, 'is not one of' => Test::IsNot, 'is one of' => Test::Is, 'is at least' => Test::Least, 'is at most' => Test::Most,
        'is between' => Test::Between, 'begins with' => Test::Begins, 'is given' => Test::Given, 'is none' => Test::None, 'is over' => Test::Over,
        'is under' => Test::Under, 'is not' => Test::IsNot, 'is in' => Test::During, 'contains' => Test::Contains, 'in' => Test::Is, 'is' => Test::Is,
    ];
    /** As they are offered to whoever writes one: how, and what helps to go on. */
    private const OFFERED = [
        'is' => '', 'is not' => '', 'is one of' => '', 'is over' => '', 'is at least' => '', 'is under' => '', 'is at most' => '', 'is between' => '',
        'is in' => 'a year, a month, last month, last 30 days', 'begins with' => '', 'contains' => '', 'is none' => '', 'is given' => '',
    ];
    private const DEEPEST = 20;
    /** What would end a value, or be read as a part of the words before it. */
    private const ENDS = "/[,'()]|^ | $| and | or |^(?:not|none|given|one of|at least|at most|over|under|between|in)\\b/iu";
    private const SIGNS = [
        '<>' => Test::IsNot,
        '!=' => Test::IsNot,
        '>=' => Test::Least,
        '<=' => Test::Most,
        '=' => Test::Is,
        '>' => Test::Over,
        '<' => Test::Under,
    ];

    /** @param list<string> $figures what stands beside measures in the answer, of which a condition may be as well */
    public function __construct(private ModelNames $names, private array $figures = [])
    {
    }

    /** @return list<array{words: string, help: string, takes: bool}> takes: whether values follow */
    public static function offered(): array
    {
        $offered = [];
        foreach (self::OFFERED as $words => $help) {
            $offered[] = ['words' => $words, 'help' => $help, 'takes' => self::WORDS[$words]->values()[1] > 0];
        }

        return $offered;
    }

    /** @throws ModelError with what was expected */
    public function read(string $text): Condition
    {
        $text = trim((string) preg_replace('/\s+/u', ' ', $text));
        $facts = [];
        if (1 === preg_match('/^(.*) \(only for ([^)]+)\)$/u', $text, $m)) {
            $text = $m[1];
            $facts = array_map(trim(...), explode(',', $m[2]));
        }
        $read = $this->whole($text, 0);

        return [] === $facts ? $read : new Condition($read->what, $read->test, $read->values, $facts, $read->of);
    }

    private function whole(string $text, int $depth): Condition
    {
        if ($depth > self::DEEPEST) {
            throw new ModelError(\sprintf('The brackets of the condition stand within one another more than %d deep. Say it in fewer.', self::DEEPEST));
        }
        foreach ([Test::Any, Test::All] as $test) {
            $parts = $this->parted($text, ' '.$test->value.' ');
            if (\count($parts) > 1) {
                return new Condition('', $test, of: array_map(fn (string $part): Condition => $this->whole($part, $depth + 1), $parts));
            }
        }
        $inner = self::inBrackets($text);
        if (null !== $inner) {
            return $this->whole($inner, $depth + 1);
        }
        $elsewhere = $this->elsewhere($text);
        if (null !== $elsewhere) {
            [$what, $test, $sought, $of] = $elsewhere;

            return new Condition($what, $test, [$sought], of: '' === $of ? [] : [$this->whole($of, $depth + 1)]);
        }

        return $this->single($text);
    }

    private function single(string $text): Condition
    {
        foreach ($this->splits($text) as [$what, $test, $rest]) {
            if ($this->knows($what)) {
                return new Condition($what, $test, $this->values($rest, $test, $text));
            }
            $unknown ??= $what;
        }
        if (isset($unknown)) {
            $this->names->attribute($unknown);
        }
        throw new ModelError(\sprintf('“%s” is not understood as a condition. Write %s.', $text, self::HELP));
    }

    private function knows(string $what): bool
    {
        $known = array_filter($this->figures, static fn (string $one): bool => ModelNames::folded($one) === ModelNames::folded($what));

        return [] !== $known || $this->names->has($what);
    }

    /** Whether a text begins as a condition does: else it goes on with the one before, as the values of "is between 1 and 5". */
    private function begins(string $text): bool
    {
        if (str_starts_with($text, '(') || null !== $this->elsewhere($text)) {
            return true;
        }
        foreach ($this->splits($text) as [$what]) {
            if ($this->knows($what)) {
                return true;
            }
        }

        return false;
    }

    /** @return list<string> the conditions that a word joins, outside of quotes and brackets */
    private function parted(string $text, string $word): array
    {
        $parts = [];
        $quoted = false;
        $deep = $from = 0;
        for ($i = 0, $n = \strlen($text); $i < $n; ++$i) {
            $quoted = "'" === $text[$i] ? !$quoted : $quoted;
            $deep += $quoted ? 0 : ['(' => 1, ')' => -1][$text[$i]] ?? 0;
            if (!$quoted && 0 === $deep && 0 === strncasecmp(substr($text, $i, \strlen($word)), $word, \strlen($word))
                && $this->begins(trim(substr($text, $i + \strlen($word))))) {
                $parts[] = trim(substr($text, $from, $i - $from));
                $from = $i + \strlen($word);
                $i = $from - 1;
            }
        }

        return [...$parts, trim(substr($text, $from))];
    }

    /** What stands in a pair of brackets that are around the whole; null where there is none. */
    private static function inBrackets(string $text): ?string
    {
        if (!str_starts_with($text, '(') || !str_ends_with($text, ')')) {
            return null;
        }
        $deep = 0;
        $quoted = false;
        for ($i = 0, $n = \strlen($text); $i < $n; ++$i) {
            $quoted = "'" === $text[$i] ? !$quoted : $quoted;
            $deep += $quoted ? 0 : ['(' => 1, ')' => -1][$text[$i]] ?? 0;
            if (0 === $deep && $i < $n - 1) {
                return null;
            }
        }

        return trim(substr($text, 1, -1));
    }

    /** @return array{string, Test, string, string}|null the role, has or has no, the role that is sought, and what holds of it */
    private function elsewhere(string $text): ?array
    {
        if (1 !== preg_match('/^(?<what>.+?) (?<test>has(?: no)?) (?<sought>[^()]+?)(?: (?<of>\(.*\)))?$/iu', $text, $m)) {
            return null;
        }
        $what = $this->names->role($m['what']);
        $sought = $this->names->role($m['sought']);
        if (null === $what || null === $sought) {
            return null;
        }
        $of = $m['of'] ?? '';

        return [$what, 'has' === mb_strtolower($m['test']) ? Test::Has : Test::HasNo, $sought, '' === $of ? '' : (self::inBrackets($of) ?? $of)];
    }

    /** @return iterable<array{string, Test, string}> all ways to take the text apart: what, how, values */
    private function splits(string $text): iterable
    {
        foreach (self::SIGNS as $sign => $test) {
            $at = strpos($text, $sign);
            if (false !== $at && $at > 0 && !str_contains(substr($text, 0, $at), "'")) {
                yield [trim(substr($text, 0, $at)), $test, trim(substr($text, $at + \strlen($sign)))];
            }
        }
        foreach (self::WORDS as $words => $test) {
            $at = stripos($text, ' '.$words);
            while (false !== $at) {
                $after = substr($text, $at + 1 + \strlen($words));
                if ('' === $after || ' ' === $after[0]) {
                    yield [substr($text, 0, $at), $test, trim($after)];
                }
                $at = stripos($text, ' '.$words, $at + 1);
            }
        }
    }

    /** @return list<string> */
    private function values(string $rest, Test $test, string $text): array
    {
        [$least, $most] = $test->values();
        if (0 === $most) {
            if ('' !== $rest) {
                throw new ModelError(\sprintf('After “%s” nothing follows, but there is “%s”.', $test->value, $rest));
            }

            return [];
        }
        $rest = trim($rest);
        if (str_starts_with($rest, '(') && str_ends_with($rest, ')')) {
            $rest = substr($rest, 1, -1);
        }
        $values = match (true) {
            Test::Between === $test => preg_split("/ and (?=(?:[^']*'[^']*')*[^']*$)/i", $rest) ?: [],
            1 === $most => [$rest],
            default => $this->listed($rest),
        };
        $values = array_values(
            array_filter(array_map(self::unquoted(...), $values), static fn (string $value): bool => '' !== $value || str_contains($rest, "''")),
        );
        if (\count($values) < $least) {
            throw new ModelError(
                \sprintf('“%s” needs %s after “%s”.', $text, 1 === $least ? 'a value' : "$least values, with “and” between them", $test->value),
            );
        }

        return $values;
    }

    /** @return list<string> */
    private function listed(string $text): array
    {
        preg_match_all("/\\s*('(?:[^']|'')*'|[^,]+)\\s*(?:,|$)/u", $text, $m);

        return array_map(trim(...), $m[1]);
    }

    private static function unquoted(string $value): string
    {
        $value = trim($value);

        return \strlen($value) > 1 && str_starts_with($value, "'") && str_ends_with($value, "'") ? str_replace("''", "'", substr($value, 1, -1)) : $value;
    }

    /** The same in words that read() understands. */
    public static function of(Condition $condition): string
    {
        $facts = [] === $condition->facts ? '' : ' (only for '.implode(', ', $condition->facts).')';
        if ($condition->test->isOfOthers()) {
            return implode(' '.$condition->test->value.' ', array_map(
                static fn (Condition $one): string => $one->test->isOfOthers() ? '('.self::of($one).')' : self::of($one),
                $condition->of,
            )).$facts;
        }
        if ($condition->test->isElsewhere()) {
            $of = [] === $condition->of ? '' : ' ('.implode(' and ', array_map(
                static fn (Condition $one): string => \count($condition->of) > 1 && $one->test->isOfOthers() ? '('.self::of($one).')' : self::of($one),
                $condition->of,
            )).')';

            return $condition->what.' '.$condition->test->value.' '.implode(', ', $condition->values).$of.$facts;
        }
        $quoted = static fn (string $value): string => '' === $value || 1 === preg_match(self::ENDS, $value)
            ? Quotes::around($value, "'") : $value;
        $values = array_map($quoted, $condition->values);

        return $condition->what.' '
            .(match (true) {
                Test::Is === $condition->test && \count($values) > 1 => 'is one of',
                Test::IsNot === $condition->test && \count($values) > 1 => 'is not one of',
                default => $condition->test->value,
            })
            .([] === $values ? '' : ' '.implode(Test::Between === $condition->test ? ' and ' : ', ', $values)).$facts;
    }
}
