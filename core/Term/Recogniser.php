<?php

declare(strict_types=1);

namespace Fasti\Core\Term;

use Fasti\Core\Wording\Noun;

/**
 * Finds the words of a glossary in texts: whole words only, in the singular or plural, the longest term first ("gauge board"
 * before "gauge"). Small and capital letters are one, save for terms that are short forms in capitals ("IT" is not "it").
 *
 * The words of a text are looked up by the first word of each term, and then by what follows, so that the time goes by the length
 * of the text and not by the number of terms.
 */
final class Recogniser
{
    private const WORD = '/[\p{L}\p{N}]+(?:[\'’\-][\p{L}\p{N}]+)*/u';
    private const CAPITALS = '/^\p{Lu}[\p{Lu}\p{N}]{1,5}$/u';

    /**
     * @var array<string, array<string, list<array{int, string}>>> first word → the other words with blanks between → terms, each with how it must be
     *     written or ''
     */
    private array $terms = [];
    /** @var array<string, int> first word → how many words the longest term has that begins so */
    private array $longest = [];
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
                    $first = (string) array_shift($folded);
                    $this->terms[$first][implode(' ', $folded)][] = [$term, $strict];
                    $this->longest[$first] = max($this->longest[$first] ?? 0, \count($folded));
                }
            }
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
            [$word, $from] = $words[$i];
            $first = $this->folded[$word] ?? $this->fold($word);
            if (!isset($this->terms[$first])) {
                continue;
            }
            [$ids, $length] = $this->longest($first, $words, $i, $text);
            if ([] !== $ids) {
                [$last, $at] = $words[$i + $length];
                $found[] = new Found($from, $at + \strlen($last) - $from, array_values(array_unique($ids)));
                $i += $length;
            }
        }

        return $found;
    }

    /**
     * The terms that stand from a word on, as long as can be.
     *
     * @param list<array{string, int}> $words
     *
     * @return array{list<int>, int} and how many words they have besides the first
     */
    private function longest(string $first, array $words, int $i, string $text): array
    {
        $of = $this->terms[$first];
        $ids = [];
        $length = 0;
        $rest = '';
        for ($j = 0; $j <= $this->longest[$first]; ++$j) {
            if ($j > 0) {
                $next = $words[$i + $j] ?? null;
                [$before, $at] = $words[$i + $j - 1];
                $end = $at + \strlen($before);
                // Words of one term have nothing but blanks between them, not the end of a sentence.
                if (null === $next || $next[1] !== $end + 1 && '' !== trim(substr($text, $end,
                    $next[1] - $end)) || $next[1] === $end + 1 && !ctype_space($text[$end])) {
                    break;
                }
                $rest .= ('' === $rest ? '' : ' ').($this->folded[$next[0]] ?? $this->fold($next[0]));
            }
            $here = [];
            foreach ($of[$rest] ?? [] as [$term, $strict]) {
                if ('' === $strict || $strict === $words[$i][0]) {
                    $here[] = $term;
                }
            }
            if ([] !== $here) {
                $ids = $here;
                $length = $j;
            }
        }

        return [$ids, $length];
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
