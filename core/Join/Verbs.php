<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** Verbs for joins, composed from the names of their fields and tables. They are drafts: a steward says what is right. */
final class Verbs
{
    private const PAST = [
        'seen' => 'sees', 'done' => 'does', 'made' => 'makes', 'taken' => 'takes', 'given' => 'gives', 'written' => 'writes', 'sold' => 'sells',
        'bought' => 'buys', 'sent' => 'sends', 'held' => 'holds',
        'led' => 'leads', 'paid' => 'pays', 'read' => 'reads', 'known' => 'knows', 'set' => 'sets', 'drawn' => 'draws', 'driven' => 'drives',
        'built' => 'builds', 'found' => 'finds', 'kept' => 'keeps',
        'lent' => 'lends', 'met' => 'meets', 'run' => 'runs', 'said' => 'says', 'taught' => 'teaches', 'told' => 'tells', 'won' => 'wins', 'put' => 'puts',
        'cut' => 'cuts', 'shown' => 'shows', 'chosen' => 'chooses',
    ];
    private const OF_KIND = ['type', 'kind', 'class', 'category', 'status', 'state', 'group', 'level', 'grade', 'model', 'unit', 'flag', 'genre', 'species'];
    private const PLACES = [
        'station',
        'site',
        'place',
        'location',
        'room',
        'building',
        'country',
        'city',
        'region',
        'area',
        'warehouse',
        'shop',
        'store',
        'branch',
        'address',
        'reach',
        'catchment',
        'district',
        'zone',
        'shelf',
        'depot',
        'port',
    ];

    /**
     * @param list<string> $columns that hold the reference
     * @param list<string> $primary of the referring table
     *
     * @return array{string, string} the verb in both directions; both '' where names say nothing
     */
    public static function of(string $from, array $columns, string $to, array $primary = []): array
    {
        $words = NameWords::of($columns[0] ?? '');
        while (\count($words) > 1 && (NameWords::isKeyEnding($words[\count($words) - 1]) || ctype_digit($words[\count($words) - 1]))) {
            array_pop($words);
        }
        $target = NameWords::singular(NameWords::of($to));
        $self = $from === $to;
        if (1 === \count($columns)) {
            $said = self::deed($words) ?? self::role($words, $target, $self);
            if (null !== $said) {
                return $said;
            }
        }
        $origin = NameWords::singular(NameWords::of($from));
        $last = $target[\count($target) - 1] ?? '';
        if (\count($origin) > \count($target) && \array_slice(
            $origin,
            0,
            \count($target),
        ) === $target || [] !== $primary && \count($primary) > \count($columns) && [] === array_diff($columns, $primary)) {
            return ['belongs to', 'has'];
        }

        return match (true) {
            \in_array($last, self::OF_KIND, true) => ['is of', 'is that of'],
            \in_array($last, self::PLACES, true) => ['is at', 'has'],
            default => ['', ''],
        };
    }

    /**
     * `created_by` is "is created by", `flows_into` "flows into".
     *
     * @param list<string> $words
     *
     * @return array{string, string}|null
     */
    private static function deed(array $words): ?array
    {
        $n = \count($words);
        if ($n < 2) {
            return null;
        }
        $last = $words[$n - 1];
        $before = $words[$n - 2];
        if ('by' === $last) {
            $base = self::PAST[$before] ?? (match (true) {
                str_ends_with($before, 'ied') => substr($before, 0, -3).'ies',
                str_ends_with($before, 'ed') => self::present($before),
                default => '',
            });

            return '' === $base ? null : ["is $before by", $base];
        }
        if (\in_array($last, ['into', 'to', 'from', 'in', 'at', 'with', 'on'], true)) {
            if (str_ends_with($before, 's') && !str_ends_with($before, 'ss')) {
                return ["$before $last", 'is '.self::past(substr($before, 0, -1))." $last by"];
            }
            if (str_ends_with($before, 'ed') || isset(self::PAST[$before])) {
                return ["is $before $last", 'has '.$before." $last it"];
            }
        }

        return null;
    }

    /**
     * @param list<string> $words
     * @param list<string> $target
     *
     * @return array{string, string}|null
     */
    private static function role(array $words, array $target, bool $self): ?array
    {
        $singular = NameWords::singular($words);
        if ($singular === $target || [] === $words) {
            return null;
        }
        $n = \count($target);
        if (\count($singular) > $n && \array_slice($singular, -$n) === $target) {
            $role = implode(' ', \array_slice($words, 0, \count($words) - $n));

            return ["has as $role ".implode(' ', $target), "is the $role ".implode(' ', $target).' of'];
        }
        if ($self || NameWords::isDoer($singular) && $singular !== $target && [] === array_intersect($singular, $target)) {
            $role = implode(' ', $words);

            return ["has as $role", "is the $role of"];
        }

        return null;
    }

    private static function present(string $past): string
    {
        $stem = substr($past, 0, -2);

        return match (true) {
            1 === preg_match(
                '/(?:[bcdfghklmnprstvz][aeiou]?[tvdzscgl]|[aeiou][tvdzscgr]|[cv]|u|dl|bl|tl|pl)$/',
                $stem,
            ) && 1 !== preg_match('/(?:er|or|en|in|it|ct|pt|nd|st|rt|lt|ft|nt|ss|sh|ch|ck|ow|ay)$/', $stem) => $stem.'es',
            1 === preg_match('/([bdgklmnpt])\1$/', $stem) => substr($stem, 0, -1).'s',
            1 === preg_match('/(?:s|sh|ch|x|z)$/', $stem) => $stem.'es',
            default => $stem.'s',
        };
    }

    private static function past(string $verb): string
    {
        return str_ends_with($verb, 'e') ? $verb.'d' : $verb.'ed';
    }
}
