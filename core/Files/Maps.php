<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Value\Iso;
use Fasti\Core\Wording\Amount;

/**
 * Tells maps from objects by what they look like. A map has values of one kind under names that are data: names of one
 * pattern (codes, versions, dates, identifiers), or names that vary from object to object so that few are always there. The
 * members of an object were given their names by its author, and mostly stand in every one.
 */
final class Maps
{
    /** So many different names at one place are no longer those that an author gives. */
    public const MOST_NAMES = 500;
    private const PATTERNS = [
        'UUIDs' => '/^\{?[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}\}?$/i',
        'dates' => '/^\d{4}-?(?:0[1-9]|1[0-2])(?:-?[0-3]\d)?(?:[T ]\d\d.*)?$/',
        'numbers' => '/^-?\d+$/',
        'versions' => '/^v?\d+(?:\.(?:\d+|x|\*))+(?:[-+.]?[a-z0-9.]+)?$/i',
        'times' => '/^[0-2]?\d:[0-5]\d(?::[0-5]\d)?$/',
        'addresses' => '~^(?:[a-z][a-z0-9+.-]*://\S+|[^\s@/]+@[^\s@/]+\.[a-z]+)$~i',
        'paths' => '~^(?:[@./\w-]*/[\w@.*{}:/-]+|/[\w@.*{}:/-]*)$~',
        'hashes' => '/^(?=.*\d)(?:[0-9a-f]{16,})$/i',
    ];
    /** Patterns that members may follow as well, when all of them are always there: `line1`, `line2`. */
    private const SERIES = '/^(?<stem>\D*?)[-_. ]?(?<number>\d+)$/';
    private const CODES = '/^(?=.*\d)(?=.*[A-Za-z])[A-Za-z0-9]+(?:[-_.][A-Za-z0-9]+)*$/';
    private const VERSION = '/^(?:\*|latest|dev-\S+|[\^~<>=v\s]*\d+(?:\.[\dx*]+)+\S*(?:[\s|,&-]+\S+)*)$/i';
    /** Languages that texts are mostly in: other two letters may be an author's `to`, `is`, `no`. */
    private const COMMON = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'pl', 'sv', 'cs', 'da', 'fi', 'hu', 'ru', 'zh', 'ja'];
    /** A name stands always where it stands in so many of the objects. */
    private const ALWAYS = 0.9;
    /** Fewer names than these tell nothing by their varying. */
    private const LEAST_VARYING = 12;
    private const VARYING = 0.25;
    /** Of objects under the names: the share of all members that each has on average. */
    private const ALIKE = 0.6;

    /**
     * @return array<string, string> path → what tells it; of a map within a map only the outer, since what is within it is
     *                               looked at together once that is known
     */
    public static function in(Node $node): array
    {
        $why = $node->map ? '' : self::why($node);
        if ('' !== $why) {
            return [$node->path => $why];
        }
        $found = [];
        foreach ($node->members as $member) {
            for ($at = $member; null !== $at; $at = $at->items) {
                $found += null === $at->node ? [] : self::in($at->node);
            }
        }

        return $found;
    }

    /** What tells that the objects at a place are maps; '' where they are not. */
    public static function why(Node $node): string
    {
        $names = array_map(strval(...), array_keys($node->members));
        $count = \count($names);
        if ($count < 2 || !self::ofOneKind($node)) {
            return '';
        }
        $kind = self::kind(array_values($node->members)[0]);
        $present = array_map(static fn (Member $member): int => $member->present, $node->members);
        $always = \count(array_filter($present, static fn (int $times): bool => $times >= self::ALWAYS * $node->objects)) / $count;
        $share = array_sum($present) / ($count * max(1, $node->objects));
        $pattern = self::pattern($names, 1 === $node->objects || $always > 0.5, $kind);
        if ('' !== $pattern) {
            return \sprintf('its %s names are %s', Amount::count($count), $pattern);
        }
        if ($count > self::MOST_NAMES) {
            return \sprintf('it has %s different names', Amount::count($count));
        }
        if ($count >= 3 && self::areVersions($node) && !($node->objects > 1 && $always > 0.5)) {
            return \sprintf('under its %s names stand versions', Amount::count($count));
        }
        if ($node->objects >= 5 && $count >= self::LEAST_VARYING && $share < self::VARYING && $always <= 0.1) {
            return \sprintf('its %s names vary from object to object, with values of one kind', Amount::count($count));
        }
        if ($count >= 8 && 'object' === $kind && self::innerNames($node) >= 2 && ($node->objects < 3 || $always < 0.5)) {
            return \sprintf('under its %s names stand objects alike', Amount::count($count));
        }

        return '';
    }

    /**
     * @param list<string> $names
     * @param bool         $constant most of them stand in each object, as members do
     * @param string       $kind     of the values
     */
    private static function pattern(array $names, bool $constant, string $kind): string
    {
        $count = \count($names);
        foreach (self::PATTERNS as $words => $pattern) {
            if (self::most($names, static fn (string $name): bool => 1 === preg_match($pattern, $name))) {
                return $words;
            }
        }
        $standard = self::standard($names);
        if ('' !== $standard || $constant && ($count < 10 || 'object' !== $kind) || $count < 6) {
            return $standard;
        }
        $stems = [];
        foreach ($names as $name) {
            if (1 === preg_match(self::SERIES, $name, $m)) {
                $stems[$m['stem']] = ($stems[$m['stem']] ?? 0) + 1;
            }
        }
        if ([] !== $stems && max($stems) >= 0.9 * $count) {
            return 'of one series';
        }

        return self::most($names, static fn (string $name): bool => 1 === preg_match(self::CODES, $name)) ? 'codes' : '';
    }

    /**
     * Codes that a standard lists.
     *
     * @param list<string> $names
     */
    private static function standard(array $names): string
    {
        $count = \count($names);
        $short = array_map(static fn (string $name): string => strtolower(substr($name, 0, 2)), $names);
        if (self::most($names, Iso::isLanguage(...)) && [] !== array_intersect($short, self::COMMON)
            && ($count > 2 || [] === array_diff($short, self::COMMON))) {
            return 'codes of languages';
        }
        if (!self::most($names, static fn (string $name): bool => 1 === preg_match('/^[A-Z]{2,3}$/', $name))) {
            return '';
        }
        if (self::most($names, static fn (string $name): bool => 3 === \strlen($name) && Iso::isCurrency($name))) {
            return 'codes of currencies';
        }

        return $count > 2 && self::most($names, Iso::isCountry(...)) ? 'codes of countries' : '';
    }

    /**
     * @param list<string>           $names
     * @param callable(string): bool $fits
     */
    private static function most(array $names, callable $fits): bool
    {
        return \count(array_filter($names, $fits)) >= 0.9 * \count($names);
    }

    /** Whether all members hold values of the same kind; objects also members of much the same names. */
    private static function ofOneKind(Node $node): bool
    {
        $kinds = [];
        foreach ($node->members as $member) {
            $kind = self::kind($member);
            if ('' !== $kind) {
                $kinds[$kind] = true;
            }
        }
        if (1 !== \count($kinds) || isset($kinds['several'])) {
            return false;
        }

        return !isset($kinds['object']) || self::areAlike($node);
    }

    /** Of a member: `object`, `list of …`, `text`, `number`, `flag`; '' where nothing but null, `several` where they differ. */
    private static function kind(Member $member): string
    {
        $kinds = array_keys(array_filter([
            'object' => null !== $member->node, 'list of ' => $member->lists > 0, 'text' => $member->strings > 0,
            'number' => $member->integers + $member->numbers > 0, 'flag' => $member->booleans > 0,
        ]));
        if (\count($kinds) > 1) {
            return 'several';
        }
        $kind = $kinds[0] ?? '';

        return 'list of ' === $kind ? $kind.(null === $member->items ? '' : self::kind($member->items)) : $kind;
    }

    private static function areAlike(Node $node): bool
    {
        $names = [];
        $sum = $objects = 0;
        foreach ($node->members as $member) {
            if (null === $member->node) {
                continue;
            }
            ++$objects;
            foreach ($member->node->members as $name => $inner) {
                $names[$name][self::kind($inner)] = true;
                ++$sum;
            }
        }
        if ([] === $names) {
            // Objects with nothing in them tell nothing.
            return false;
        }
        $mixed = \count(array_filter($names, static fn (array $kinds): bool => \count(array_diff_key($kinds, ['' => 1])) > 1));

        // Maps of maps have other names in each, and all of one kind.
        return $mixed <= 0.1 * \count($names) && $sum >= self::ALIKE * \count($names) * $objects
            || 1 === \count(array_unique(array_merge(...array_map(array_keys(...), array_values($names))))) && \count($names) > 2;
    }

    private static function innerNames(Node $node): int
    {
        $names = [];
        foreach ($node->members as $member) {
            $names += $member->node->members ?? [];
        }

        return \count($names);
    }

    /** Lists of what a package needs have requirements of versions under the names. */
    private static function areVersions(Node $node): bool
    {
        foreach ($node->members as $name => $member) {
            if (0 === $member->strings || null === $member->values || [] === $member->values || 1 === preg_match('/ver(?:sion)?s?$/i', (string) $name)) {
                return false;
            }
            foreach (array_keys($member->values) as $value) {
                if (1 !== preg_match(self::VERSION, (string) $value)) {
                    return false;
                }
            }
        }

        return true;
    }
}
