<?php

declare(strict_types=1);

namespace Fasti\Term;

use Fasti\Register\Links;
use Twig\Attribute\AsTwigFilter;

/** Makes links of the terms in a text, as one reads: each where it first stands, and never within another link or within code. */
final readonly class Glossed
{
    private const LONGEST = 200;

    public function __construct(private Terms $terms)
    {
    }

    /** @param int $except the term whose own definition it is */
    #[AsTwigFilter('glossed', isSafe: ['html'])]
    public function html(string $html, ?Links $links, int $except = 0): string
    {
        if ('' === $html || null === $links || [] === $this->terms->all()) {
            return $html;
        }
        $out = '';
        $inside = [];
        $seen = [$except => true];
        foreach (preg_split('/(<[^>]*>)/', $html, -1, \PREG_SPLIT_DELIM_CAPTURE) ?: [$html] as $i => $piece) {
            if (1 === $i % 2) {
                if (1 === preg_match('~^<(/?)(a|code|pre|h[1-6])\b~i', $piece, $m)) {
                    '' === $m[1] ? $inside[] = $m[2] : array_pop($inside);
                }
                $out .= $piece;
            } else {
                $out .= [] === $inside ? $this->text($piece, $links, $seen) : $piece;
            }
        }

        return $out;
    }

    /** @param array<int, true> $seen */
    private function text(string $html, Links $links, array &$seen): string
    {
        $text = html_entity_decode($html, \ENT_QUOTES | \ENT_HTML5);
        $at = 0;
        $out = '';
        foreach ($this->terms->recogniser()->in($text) as $found) {
            $term = $this->terms->one($found->terms[0]);
            $link = null === $term || isset($seen[$term->id]) ? null : $links->term($term->id);
            if (null === $term || null === $link) {
                continue;
            }
            $seen[$term->id] = true;
            $several = \count($found->terms) > 1;
            $title = $several ? 'A word with several meanings: '.implode('; ', array_map($this->briefly(...), $found->terms)) : self::short($term->definition);
            $out .= htmlspecialchars(substr($text, $at, $found->from - $at), \ENT_QUOTES).'<a class="term'.($several ? ' several' : '').'" href="'
                .htmlspecialchars($link, \ENT_QUOTES).'" title="'.htmlspecialchars($title, \ENT_QUOTES).'">'
                .htmlspecialchars(substr($text, $found->from, $found->length), \ENT_QUOTES).'</a>';
            $at = $found->from + $found->length;
        }

        return 0 === $at ? $html : $out.htmlspecialchars(substr($text, $at), \ENT_QUOTES);
    }

    private function briefly(int $id): string
    {
        $term = $this->terms->one($id);

        return null === $term ? '' : ('' === $term->area ? 'everywhere' : 'in '.$term->area).', '.self::short($term->definition);
    }

    private static function short(string $text): string
    {
        return mb_strimwidth(trim(preg_replace('/\s+/', ' ', $text) ?? ''), 0, self::LONGEST, '…');
    }
}
