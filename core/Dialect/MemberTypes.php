<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Wording\Amount;

/** Types that were worked out from what documents and files hold: those of JSON, with a format where all values have it. */
final class MemberTypes
{
    private const WORDS = [
        'string' => 'text', 'integer' => 'whole number', 'number' => 'number', 'boolean' => 'yes or no', 'object' => 'object', 'array' => 'list',
        'null' => 'nothing', 'any' => 'anything',
    ];
    private const FORMATS = [
        'date' => 'date, as text', 'date-time' => 'date and time, as text', 'uuid' => 'UUID', 'email' => 'e-mail address', 'uri' => 'web address',
    ];

    public static function of(string $type): Type
    {
        $lower = strtolower($type);
        $family = match (true) {
            str_starts_with($lower, 'string (date') => TypeFamily::Time,
            str_contains($lower, 'string') => TypeFamily::Text,
            'integer' === $lower => TypeFamily::Whole,
            str_contains($lower, 'number') => TypeFamily::Number,
            'boolean' === $lower => TypeFamily::Flag,
            default => TypeFamily::Other,
        };

        return new Type($family, $type, $lower);
    }

    public static function inWords(string $type, Seen $seen): string
    {
        $words = [];
        $total = array_sum(array_diff_key($seen->types, ['null' => 1]));
        $kinds = explode(' | ', $type);
        foreach ($kinds as $kind) {
            $plain = strtok($kind, ' ') ?: $kind;
            $said = 1 === preg_match('/\((.*)\)/', $kind, $m) ? self::FORMATS[$m[1]] ?? 'text ('.$m[1].')' : self::WORDS[$plain] ?? $plain;
            $count = ($seen->types[$plain] ?? 0) + ('number' === $plain ? $seen->types['integer'] ?? 0 : 0);
            if (\count($kinds) > 1 && $total > 0) {
                $share = Amount::percent($count, $total);
                $words[$said] = [$count, \sprintf('%s (%s %%)', $said, 0 < $count && $share < 1 ? 'under 1' : $share)];
            } else {
                $words[$said] = [$count, $said];
            }
        }
        usort($words, static fn (array $a, array $b): int => $b[0] <=> $a[0]);

        return implode(' or ', array_column($words, 1));
    }
}
