<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\Quotes;

/**
 * Reads a condition as people write it: "year is 2025", "month is at least 4", "species kind is one of fish, eel", "day is in last month".
 * The signs = <> > >= < <= are understood as well. Values with a comma stand in single quotes.
 */
final readonly class ConditionText
{
    public const HELP = 'what is looked at, then is, is not, is over, is at least, is under, is at most, is between … and …, '
        .'is in (a period), begins with, contains, is none or is given, and values with commas between them';
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
    private const SIGNS = [
        '<>' => Test::IsNot,
        '!=' => Test::IsNot,
        '>=' => Test::Least,
        '<=' => Test::Most,
        '=' => Test::Is,
        '>' => Test::Over,
        '<' => Test::Under,
    ];

    public function __construct(private ModelNames $names)
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
        foreach ($this->splits($text) as [$what, $test, $rest]) {
            if ($this->names->has($what)) {
                return new Condition($what, $test, $this->values($rest, $test, $text), $facts);
            }
            $unknown ??= $what;
        }
        if (isset($unknown)) {
            $this->names->attribute($unknown);
        }
        throw new ModelError(\sprintf('“%s” is not understood as a condition. Write %s.', $text, self::HELP));
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
        $quoted = static fn (string $value): string => '' === $value || 1 === preg_match("/[,']|^ | $|^\\(|\\)$| and /u", $value)
            ? Quotes::around($value, "'") : $value;
        $values = array_map($quoted, $condition->values);

        return $condition->what.' '
            .(match (true) {
                Test::Is === $condition->test && \count($values) > 1 => 'is one of',
                Test::IsNot === $condition->test && \count($values) > 1 => 'is not one of',
                default => $condition->test->value,
            })
            .([] === $values ? '' : ' '.implode(Test::Between === $condition->test ? ' and ' : ', ', $values))
            .([] === $condition->facts ? '' : ' (only for '.implode(', ', $condition->facts).')');
    }
}
