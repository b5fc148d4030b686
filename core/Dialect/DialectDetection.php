<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Wording\Enumeration;

/** Which dialect a script is written in, and what decided that. */
final readonly class DialectDetection
{
    /**
     * @param list<string> $by      what decided, the most telling first; empty where nothing did
     * @param ?string      $instead another dialect that fits as well, by its name for people
     */
    private function __construct(public Grammar $grammar, public array $by, public ?string $instead)
    {
    }

    /**
     * @param array<string, Dialect> $dialects by name; scripts of one that has no grammar of its own are read by that of the fallback
     * @param string                 $fallback the dialect where nothing tells
     */
    public static function of(string $script, array $dialects, string $fallback): self
    {
        $grammars = array_filter(array_map(static fn (Dialect $dialect): ?Grammar => $dialect->grammar(), $dialects));
        $total = $alone = array_fill_keys(array_keys($grammars), 0);
        $own = $shared = array_fill_keys(array_keys($grammars), []);
        $bare = self::withoutTexts($script);
        $counts = [];
        foreach ($dialects as $name => $dialect) {
            $name = isset($grammars[$name]) ? $name : $fallback;
            foreach ($dialect->telltales() as $telltale) {
                $count = $counts[$telltale->pattern] ??= (int) preg_match_all($telltale->pattern, $telltale->anywhere ? $script : $bare);
                if ($count > 0) {
                    // How often something stands there tells less than how much there is.
                    $score = $telltale->weight * (1 + (int) log($count, 4));
                    $total[$name] += $score;
                    if ($telltale->shared) {
                        $shared[$name][$telltale->name] = $telltale->weight * $count;
                    } else {
                        $alone[$name] += $score;
                        $own[$name][$telltale->name] = $telltale->weight * $count;
                    }
                }
            }
        }
        arsort($total);
        $best = (string) array_key_first($total);
        if (0 === $total[$best]) {
            return new self($grammars[$fallback], [], null);
        }
        [$best, $instead] = self::decided($best, $total, $alone, $grammars);
        arsort($own[$best]);
        arsort($shared[$best]);

        return new self($grammars[$best], \array_slice([...array_keys($own[$best]), ...array_keys($shared[$best])], 0, 4), $instead);
    }

    /**
     * @param array<string, int>     $total    by dialect, the greatest first
     * @param array<string, int>     $alone    what each has that its family does not share
     * @param array<string, Grammar> $grammars
     *
     * @return array{string, ?string} the dialect, and the name for people of another that fits as well
     */
    private static function decided(string $best, array $total, array $alone, array $grammars): array
    {
        $family = $grammars[$best]->family;
        if ('' === $family) {
            $rivals = array_diff(array_keys($total, $total[$best], true), [$best]);

            return [$best, [] === $rivals ? null : $grammars[current($rivals)]->label];
        }
        $members = array_keys(array_filter($grammars, static fn (Grammar $grammar): bool => $family === $grammar->family));
        if (1 < \count(array_unique(array_intersect_key($alone, array_flip($members))))) {
            return [$best, null];
        }

        // What they share tells that it is one of them, and nothing more.
        return [$members[0], $grammars[$members[1] ?? $members[0]]->label];
    }

    /** What stands in texts and comments says nothing of the dialect around them. */
    private static function withoutTexts(string $script): string
    {
        return (string) preg_replace(['~/\\*(?!M?!).*?\\*/~s', '/^\s*--[^\n]*/m', "/'(?:[^'\\\\\n]|''|\\\\.)*'/"], [' ', '', "''"], $script);
    }

    /** In a sentence. */
    public function inWords(): string
    {
        if ([] === $this->by) {
            return \sprintf('Nothing in the script tells its dialect, so it was read as %s. Name the dialect if that is not it.', $this->grammar->label);
        }

        return \sprintf('It was read as %s, by %s.', $this->grammar->label, Enumeration::of($this->by))
            .(null === $this->instead ? '' : \sprintf(' It may be %s as well; name the dialect if it is.', $this->instead));
    }
}
