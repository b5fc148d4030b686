<?php

declare(strict_types=1);

namespace Fasti\Support;

use League\CommonMark\Environment\Environment;
use League\CommonMark\Extension\Autolink\AutolinkExtension;
use League\CommonMark\Extension\CommonMark\CommonMarkCoreExtension;
use League\CommonMark\Extension\DisallowedRawHtml\DisallowedRawHtmlExtension;
use League\CommonMark\Extension\Table\TableExtension;
use League\CommonMark\MarkdownConverter;

/** CommonMark to HTML that is safe to show: raw HTML is escaped, only harmless links remain, and nothing is loaded from elsewhere. */
final class Markdown
{
    private static ?MarkdownConverter $converter = null;

    public static function html(string $text): string
    {
        if ('' === $text) {
            return '';
        }
        // Most texts are one plain sentence; they need no parser.
        if (1 !== preg_match('/[*_`#\[\]<>&!|\\\\~"\n]|https?:|www\.|^\s*(?:[-+]|\d+[.)])\s/', $text)) {
            return '<p>'.htmlspecialchars($text, \ENT_QUOTES).'</p>';
        }
        $html = self::converter()->convert($text)->getContent();

        // A picture would be fetched from wherever it lies; its description and address remain as a link.
        return preg_replace('~<img src="([^"]*)" alt="([^"]*)"[^>]*>~', '<a href="$1">$2</a>', $html) ?? $html;
    }

    private static function converter(): MarkdownConverter
    {
        if (null === self::$converter) {
            $environment = new Environment([
                'html_input' => 'escape',
                'allow_unsafe_links' => false,
                'max_nesting_level' => 30,
                'max_delimiters_per_line' => 500,
            ]);
            $environment->addExtension(new CommonMarkCoreExtension());
            $environment->addExtension(new AutolinkExtension());
            $environment->addExtension(new TableExtension());
            $environment->addExtension(new DisallowedRawHtmlExtension());
            self::$converter = new MarkdownConverter($environment);
        }

        return self::$converter;
    }
}
