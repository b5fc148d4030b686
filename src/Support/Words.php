<?php

declare(strict_types=1);

namespace Fasti\Support;

use Fasti\Core\Catalog\Facts;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Edition\Slug;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Noun;
use Twig\Attribute\AsTwigFilter;
use Twig\Attribute\AsTwigFunction;

/** How templates say figures, dates and texts. */
final class Words
{
    #[AsTwigFilter('engine')]
    public static function engine(string $engine): string
    {
        return Dialects::named($engine)?->label() ?? $engine;
    }

    #[AsTwigFunction('place')]
    public static function place(string $schema, string $name): Place
    {
        return new Place($schema, $name);
    }

    #[AsTwigFilter('pretty_json')]
    public static function prettyJson(string $json): string
    {
        $value = json_decode($json);

        return null === $value
            ? $json
            : (string) json_encode($value, \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION);
    }

    #[AsTwigFilter('capitalize_first')]
    public static function capitalizeFirst(string $text): string
    {
        return mb_strtoupper(mb_substr($text, 0, 1)).mb_substr($text, 1);
    }

    #[AsTwigFilter('plural')]
    public static function plural(string $noun): string
    {
        return Noun::plural($noun);
    }

    #[AsTwigFilter('figure')]
    public function figure(int|string|null $number): string
    {
        return null === $number ? '' : Amount::decimal((string) $number);
    }

    /** `3|of('table')` → "3 tables" */
    #[AsTwigFilter('of')]
    public function of(int|string $number, string $noun): string
    {
        return Amount::of((int) $number, $noun);
    }

    #[AsTwigFilter('bytes')]
    public function bytes(int|string $bytes): string
    {
        return Amount::bytes((int) $bytes);
    }

    #[AsTwigFilter('percent_of')]
    public function percentOf(int|string $part, int|string $whole): int
    {
        return Amount::percent((int) $part, (int) $whole);
    }

    /** @return array<string, string> label → value, of the facts that show by themselves */
    #[AsTwigFilter('plain_facts')]
    public function plainFacts(object $of): array
    {
        return Facts::shown($of);
    }

    #[AsTwigFilter('with_article')]
    public function withArticle(string $noun): string
    {
        return Noun::withArticle($noun);
    }

    #[AsTwigFilter('markdown', isSafe: ['html'])]
    public function markdown(string $text): string
    {
        return Markdown::html($text);
    }

    /** A moment in UTC as a day: "24 Nov 2026" */
    #[AsTwigFilter('day')]
    public function day(\DateTimeInterface|string|null $when): string
    {
        return null === $when ? '' : self::moment($when)->format('j M Y');
    }

    #[AsTwigFilter('minute')]
    public function minute(\DateTimeInterface|string|null $when): string
    {
        return null === $when ? '' : self::moment($when)->format('j M Y, H:i').' UTC';
    }

    /** "just now", "3 hours ago", "2 days ago", then the day */
    #[AsTwigFilter('ago')]
    public function ago(\DateTimeInterface|string|null $when): string
    {
        if (null === $when) {
            return '';
        }
        $seconds = time() - self::moment($when)->getTimestamp();

        return match (true) {
            $seconds < 90 => 'just now',
            $seconds < 5400 => Amount::of((int) round($seconds / 60), 'minute').' ago',
            $seconds < 86400 => Amount::of((int) round($seconds / 3600), 'hour').' ago',
            $seconds < 1209600 => Amount::of((int) round($seconds / 86400), 'day').' ago',
            default => $this->day($when),
        };
    }

    #[AsTwigFunction('slug')]
    public function slug(string $name): string
    {
        return Slug::of($name);
    }

    /** @return array<mixed> */
    #[AsTwigFunction('json')]
    public function json(string $text): array
    {
        $value = json_decode($text, true);

        return \is_array($value) ? $value : [];
    }

    private static function moment(\DateTimeInterface|string $when): \DateTimeInterface
    {
        return \is_string($when) ? new \DateTimeImmutable($when, new \DateTimeZone('UTC')) : $when;
    }
}
