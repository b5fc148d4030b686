<?php

declare(strict_types=1);

namespace Fasti\Core\Term;

use Fasti\Core\Wording\Noun;

/**
 * Finds the words of a glossary in texts: whole words only, in the singular or plural, the longest term first ("gauge board"
 * before "gauge"). Small and capital letters are one, save for terms that are short forms in capitals ("IT" is not "it").
 *
 * The words of a text are looked up by the first word of each term (a trie that is one level deep, since terms are short), so
 * that the time goes by the length of the text and not by the number of terms.
 */
final class Recogniser
{
    private const WORD = '/[\p{L}\p{N}]+(?:[\'’\-][\p{L}\p{N}]+)*/u';
    private const CAPITALS = '/^\p{Lu}[\p{Lu}\p{N}]{1,5}$/u';

    /** @var array<string, list<array{list<string>, int, string}>> first word → the other words, the term, the word as it must be written or '' */
    private array $terms = [];
    /** @var array<string, string> words as they were seen → as they are compared */
    private array $folded = [];

    /** @param iterable<int, list<string>> $terms term → its word and its synonyms */
    public function __construct(iterable $terms)
    {
        foreach ($terms as $term => $words) {
            foreach ($words as $word) {
                preg_match_all(self::WORD, $word, $m);
                if ([] !== $m[0]) {
                    $folded = array_map($this->fold(...), $m[0]);
                    $strict = 1 === \count($m[0]) && 1 === preg_match(self::CAPITALS, $m[0][0]) ? $m[0][0] : '';
                    $this->terms[(string) array_shift($folded)][] = [$folded, $term, $strict];
                }
            }
        }
        foreach ($this->terms as &$of) {
            usort($of, static fn (array $a, array $b): int => \count($b[0]) <=> \count($a[0]) ?: $a[1] <=> $b[1]);
        }
    }

    /** @return list<Found> in the order of the text; none overlaps another */
    public function in(string $text): array
    {
        if ([] === $this->terms || !preg_match_all(self::WORD, $text, $m, \PREG_OFFSET_CAPTURE)) {
            return [];
        }
        $words = $m[0];
        $found = [];
        $count = \count($words);
        for ($i = 0; $i < $count; ++$i) {
            $of = $this->terms[$this->folded[$words[$i][0]] ?? $this->fold($words[$i][0])] ?? null;
            if (null === $of) {
                continue;
            }
            $ids = [];
            $length = -1;
            foreach ($of as [$rest, $term, $strict]) {
                if (-1 !== $length && \count($rest) < $length) {
                    break;
                }
                if (('' === $strict || $strict === $words[$i][0]) && $this->stands($rest, $words, $i, $text)) {
                    $ids[] = $term;
                    $length = \count($rest);
                }
            }
            if ([] !== $ids) {
                [$last, $at] = $words[$i + $length];
                $found[] = new Found($words[$i][1], $at + \strlen($last) - $words[$i][1], array_values(array_unique($ids)));
                $i += $length;
            }
        }

        return $found;
    }

    /**
     * @param list<string>             $rest
     * @param list<array{string, int}> $words
     */
    private function stands(array $rest, array $words, int $i, string $text): bool
    {
        foreach ($rest as $j => $word) {
            $next = $words[$i + $j + 1] ?? null;
            if (null === $next || ($this->folded[$next[0]] ?? $this->fold($next[0])) !== $word) {
                return false;
            }
            $before = $words[$i + $j];
            // Words of one term have nothing but blanks between them, not the end of a sentence.
            if ('' !== trim(substr($text, $before[1] + \strlen($before[0]), $next[1] - $before[1] - \strlen($before[0])))) {
                return false;
            }
        }

        return true;
    }

    private function fold(string $word): string
    {
        if (isset($this->folded[$word])) {
            return $this->folded[$word];
        }
        $small = mb_strtolower(str_replace('’', "'", $word));
        $plain = str_ends_with($small, "'s") ? substr($small, 0, -2) : $small;

        return $this->folded[$word] = mb_strlen($plain) > 2 ? Noun::singular($plain) : $plain;
    }
}
