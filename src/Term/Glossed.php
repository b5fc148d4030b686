<?php

declare(strict_types=1);

namespace Fasti\Term;

use Fasti\Register\Gloss;
use Fasti\Register\Links;

/** Makes links of the terms in a text, as one reads: each where it first stands, and never within another link or within code. */
final readonly class Glossed implements Gloss
{
    private const LONGEST = 200;
    private const LEFT_ALONE = ['a', 'code', 'pre', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6'];

    public function __construct(private Terms $terms)
    {
    }

    public function html(string $html, Links $links, int $except): string
    {
        // Most texts have no term in them, and are not taken apart.
        if ([] === $this->terms->all() || [] === $this->terms->recogniser()->in(strip_tags($html))) {
            return $html;
        }
        $document = new \DOMDocument();
        $read = @$document->loadHTML('<?xml encoding="UTF-8"><body>'.$html.'</body>', \LIBXML_NONET | \LIBXML_COMPACT);
        $body = $read ? $document->getElementsByTagName('body')->item(0) : null;
        if (!$body instanceof \DOMElement) {
            return $html;
        }
        $seen = [$except => true];
        $this->within($body, $links, $seen);
        $out = '';
        foreach ($body->childNodes as $node) {
            $out .= $document->saveHTML($node);
        }

        return $out;
    }

    /** @param array<int, true> $seen */
    private function within(\DOMNode $node, Links $links, array &$seen): void
    {
        foreach (iterator_to_array($node->childNodes) as $child) {
            if ($child instanceof \DOMText) {
                $this->text($child, $links, $seen);
            } elseif (!\in_array($child->nodeName, self::LEFT_ALONE, true)) {
                $this->within($child, $links, $seen);
            }
        }
    }

    /** @param array<int, true> $seen */
    private function text(\DOMText $node, Links $links, array &$seen): void
    {
        $text = $node->data;
        $document = $node->ownerDocument ?? throw new \LogicException('It was read from a document.');
        $at = 0;
        $pieces = [];
        foreach ($this->terms->recogniser()->in($text) as $found) {
            $term = $this->terms->one($found->terms[0]);
            $link = null === $term || isset($seen[$term->id]) ? null : $links->term($term->id);
            if (null === $term || null === $link) {
                continue;
            }
            $seen[$term->id] = true;
            $several = \count($found->terms) > 1;
            $pieces[] = $document->createTextNode(substr($text, $at, $found->from - $at));
            $a = $document->createElement('a');
            $a->setAttribute('class', $several ? 'term several' : 'term');
            $a->setAttribute('href', $link);
            $a->setAttribute('title', $several ? 'A word with several meanings: '.implode('; ', array_map($this->briefly(...), $found->terms))
                : self::short($term->definition));
            $a->appendChild($document->createTextNode(substr($text, $found->from, $found->length)));
            $pieces[] = $a;
            $at = $found->from + $found->length;
        }
        if ([] !== $pieces) {
            $pieces[] = $document->createTextNode(substr($text, $at));
            $node->replaceWith(...$pieces);
        }
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
