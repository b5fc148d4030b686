<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Symfony\Component\DomCrawler\Crawler;

/** What a page says to who reads it: words, where its links and forms lead, and what its fields hold. */
final class PageWords
{
    private const BLOCKS = ['p', 'div', 'li', 'tr', 'h1', 'h2', 'h3', 'h4', 'section', 'form', 'dt', 'dd', 'details', 'summary', 'ul', 'ol', 'table', 'option',
        'select', 'textarea', 'label', 'fieldset', 'legend', 'article', 'nav', 'header', 'footer', 'aside', 'pre', 'svg', 'text', 'button', 'dl'];

    /** @return list<string> */
    public static function of(Crawler $page): array
    {
        $text = '';
        foreach ($page->filter('title')->count() > 0 ? [$page->filter('title'), $page->filter('body > .flash'), $page->filter('main')] : [$page] as $part) {
            foreach ($part as $node) {
                $text .= "\n".self::words($node);
            }
        }
        $lines = array_map(static fn (string $line): string => trim((string) preg_replace('/\s+/u', ' ', $line)), explode("\n", $text));

        return array_values(array_filter($lines, static fn (string $line): bool => '' !== $line));
    }

    private static function words(\DOMNode $node): string
    {
        if ($node instanceof \DOMText) {
            return 'pre' === $node->parentNode?->nodeName ? $node->data : (string) preg_replace('/\s+/u', ' ', $node->data);
        }
        if (!$node instanceof \DOMElement || \in_array($node->nodeName, ['script', 'style', 'template', 'defs', 'path', 'head'], true)) {
            return '';
        }
        $inner = '';
        foreach ($node->childNodes as $child) {
            $inner .= self::words($child);
        }
        $line = self::before($node).$inner;
        if (\in_array($node->nodeName, self::BLOCKS, true)) {
            return "\n$line\n";
        }

        return \in_array($node->nodeName, ['td', 'th'], true) ? "$line | " : $line;
    }

    private static function before(\DOMElement $node): string
    {
        $has = static fn (string $name): string => $node->getAttribute($name);
        $said = '';
        foreach (['href', 'action', 'aria-label', 'title', 'placeholder', 'data-url', 'data-form', 'data-id', 'data-do', 'aria-current', 'datetime'] as $name) {
            $said .= '' === $has($name) ? '' : "[$name ".$has($name).'] ';
        }
        if ('input' === $node->nodeName && '_token' !== $has('name')) {
            $said = "\n[".$has('type').' '.$has('name').' = '.$has('value').($node->hasAttribute('checked') ? ' checked' : '')."] $said";
        } elseif (\in_array($node->nodeName, ['select', 'textarea', 'button'], true)) {
            $said .= "[$node->nodeName "
                .$has('name').('' === $has('value') ? '' : ' = '.$has('value')).($node->hasAttribute('disabled') ? ' disabled' : '').'] ';
        } elseif ('option' === $node->nodeName) {
            $said .= '['.$has('value').($node->hasAttribute('selected') ? ' selected' : '').'] ';
        }
        if (1 === preg_match('/\b(fault|rubric|warning|error|note|gone|weak|sure|doubtful|faded|key|selected)\b/', $has('class'), $m)) {
            $said .= "($m[1]) ";
        }

        return $said;
    }
}
