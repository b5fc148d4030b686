<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Value\Iso;

/** What a field is likely to be, from its figures and some of its values. */
final class Likely
{
    private const LEAST = 0.9;
    private const FLAGS = [
        '0' => 1, '1' => 1, 't' => 1, 'f' => 1, 'true' => 1, 'false' => 1, 'y' => 1, 'n' => 1, 'yes' => 1, 'no' => 1, 'on' => 1, 'off' => 1, 'x' => 1,
    ];
    private const PATTERNS = [
        'UUID' => '/^\{?[0-9a-f]{8}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{12}\}?$/i',
        'e-mail address' => '/^[^\s@,;]+@[^\s@,;]+\.[a-z]{2,}$/i',
        'web address' => '~^(?:https?|ftp)://\S+$|^www\.\S+\.\S+$~i',
        'date kept as text' => '~^(?:\d{4}[-/.](?:0?[1-9]|1[0-2])[-/.](?:0?[1-9]|[12]\d|3[01])'
            .'|(?:0?[1-9]|[12]\d|3[01])[-/.](?:0?[1-9]|1[0-2])[-/.](?:\d{4}|\d\d)|(?:19|20)\d\d(?:0[1-9]|1[0-2])(?:0[1-9]|[12]\d|3[01]))'
            .'(?:[T ]\d\d:\d\d(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d:?\d\d)?)?$~',
        'telephone number' => '~^(?=(?:\D*\d){6,15}\D*$)(?:\+|00|\(?0)[\d\s()/.-]{6,22}$~',
        'number kept as text' => '/^[+-]?(?:0|[1-9]\d{0,14})(?:[.,]\d+)?$/',
    ];

    /**
     * @param list<string> $values   some of the field's values that are not blank
     * @param ?int         $distinct of all its values, where known
     *
     * @return array{string, int} the kind and the per cent of values that fit; '' where nothing stands out
     */
    public static function kind(TypeFamily $family, array $values, int $rows, int $filled, ?int $distinct, int $longest): array
    {
        if (0 === $filled) {
            return $rows > 0 ? ['always empty', 100] : ['', 0];
        }
        if (1 === $distinct && $filled === $rows && $rows > 1) {
            return ['constant', 100];
        }
        if ([] === $values) {
            return ['', 0];
        }
        $measured = TypeFamily::Number === $family || TypeFamily::Time === $family;
        if (null !== $distinct && $distinct <= 2 && !$measured
            && 1.0 === self::share($values, static fn (string $value): bool => isset(self::FLAGS[strtolower($value)]))) {
            return ['flag', 100];
        }
        $found = TypeFamily::Text === $family ? self::text($values, $longest) : null;

        return $found ?? (null === $distinct ? ['', 0] : self::counted($family, $filled, $distinct, $longest));
    }

    /** @return array{string, int} what it is by how many different values there are */
    private static function counted(TypeFamily $family, int $filled, int $distinct, int $longest): array
    {
        if ($distinct >= 10 && $distinct === $filled && TypeFamily::Number !== $family && TypeFamily::Time !== $family && $longest <= 64) {
            return ['identifier', 100];
        }
        $short = (TypeFamily::Text === $family && $longest <= 24) || (TypeFamily::Whole === $family && $distinct <= 20);

        return $distinct >= 2 && $distinct <= 60 && $filled >= 5 * $distinct && $short ? ['code', 100] : ['', 0];
    }

    /**
     * What texts look like.
     *
     * @param non-empty-list<string> $values
     *
     * @return array{string, int}|null
     */
    private static function text(array $values, int $longest): ?array
    {
        foreach (self::PATTERNS as $kind => $pattern) {
            $part = self::share($values, static fn (string $value): bool => 1 === preg_match($pattern, trim($value)));
            if ($part >= self::LEAST && !('telephone number' === $kind && $longest <= 5)) {
                return [$kind, self::percent($part)];
            }
        }
        $part = self::share($values, static fn (string $value): bool => \in_array($value[0], ['{', '['], true) && self::isJson($value));
        if ($part >= self::LEAST) {
            return ['JSON', self::percent($part)];
        }
        $different = array_values(array_unique($values));
        if ($longest > 5 || 1 === \count($different)) {
            return null;
        }
        foreach ([
            'country code (ISO 3166)' => Iso::isCountry(...),
            'currency code (ISO 4217)' => Iso::isCurrency(...),
            'language code (ISO 639)' => Iso::isLanguage(...),
        ] as $kind => $is) {
            // Two letters are quickly a country's by accident, so several different ones must fit.
            if (self::share($different, $is) >= self::LEAST && \count($different) >= ($longest <= 2 ? 4 : 3)) {
                return [$kind, self::percent(self::share($values, $is))];
            }
        }

        return null;
    }

    /**
     * @param non-empty-list<string> $values
     * @param callable(string): bool $fits
     */
    private static function share(array $values, callable $fits): float
    {
        return \count(array_filter($values, $fits)) / \count($values);
    }

    private static function percent(float $part): int
    {
        return (int) min($part < 1 ? 99 : 100, round(100 * $part));
    }

    private static function isJson(string $value): bool
    {
        json_decode($value);

        return \JSON_ERROR_NONE === json_last_error();
    }
}
