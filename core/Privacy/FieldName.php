<?php

declare(strict_types=1);

namespace Fasti\Core\Privacy;

/** The name of a field as words: in small letters, without accents, whatever the style it is written in. */
final readonly class FieldName
{
    /** Words that make of a field something about the thing rather than the thing: `email_sent_at`, `token_count`. */
    private const ABOUT = [
        'at', 'on', 'count', 'counts', 'counter', 'type', 'types', 'kind', 'verified', 'confirmed', 'sent', 'enabled', 'disabled', 'valid',
        'validated', 'required', 'visible', 'hidden',
        'template', 'templates', 'subject', 'format', 'length', 'len', 'limit', 'limits', 'status', 'state', 'provider', 'optin', 'optout',
        'changed', 'failed', 'attempts', 'attempt', 'expires', 'expiry', 'expired',
        'expiration', 'ttl', 'policy', 'rule', 'rules', 'strength', 'total', 'label', 'labels', 'language', 'version', 'algorithm', 'algo', 'method',
        'rounds', 'cost', 'costs', 'hint', 'question', 'usage', 'used',
        'created', 'updated', 'deleted', 'order', 'sort', 'position', 'index', 'flag', 'active', 'public', 'private', 'allowed', 'reset', 'lifetime',
        'interval', 'quota', 'size', 'model', 'brand', 'rate',
        'angelegt', 'geaendert', 'anzahl', 'typ', 'art', 'nombre_de', 'cantidad', 'tipo', 'aantal', 'soort', 'liczba', 'rodzaj', 'category', 'area',
        'lights', 'width', 'surface', 'prefix', 'suffix',
    ];
    /** They say of what is after them whether it is so. */
    private const ASKS = [
        'is', 'has', 'can', 'may', 'needs', 'requires', 'allow', 'allows', 'show', 'hide', 'ist', 'hat', 'est', 'es', 'czy', 'use', 'uses', 'with',
        'num', 'nb', 'max', 'min', 'send', 'count',
    ];

    private function __construct(public string $words)
    {
    }

    public static function of(string $field): self
    {
        $last = (string) preg_replace('/^.*[.\]}]/', '', $field);
        // A name may itself end with a bracket: “E-mail [private]”.
        $last = '' === $last ? $field : $last;
        $plain = strtr(
            $last,
            [
                'ä' => 'ae', 'ö' => 'oe', 'ü' => 'ue', 'Ä' => 'Ae', 'Ö' => 'Oe', 'Ü' => 'Ue', 'ß' => 'ss', 'å' => 'a', 'Å' => 'A', 'ø' => 'o', 'Ø' => 'O',
                'æ' => 'ae', 'ł' => 'l', 'Ł' => 'L',
            ],
        );
        /** @var ?\Transliterator $latin */
        static $latin = null;
        $ascii = 1 !== preg_match('/[^\x00-\x7F]/', $plain) ? $plain
            : (($latin ??= \Transliterator::create('Any-Latin; Latin-ASCII'))?->transliterate($plain) ?? false);

        return new self(trim(strtolower((string) preg_replace(
            ['/(?<=[a-z0-9])(?=[A-Z])/', '/(?<=[A-Z])(?=[A-Z][a-z])/', '/[^A-Za-z0-9]+/'],
            '_',
            false === $ascii ? $plain : $ascii,
        )), '_'));
    }

    /** It is about what its other words say, rather than holding it. */
    public function isAbout(): bool
    {
        $words = explode('_', $this->words);

        return \count($words) > 1 && (\in_array(
            end($words),
            self::ABOUT,
            true,
        ) || \in_array($words[0], self::ASKS, true) || ('id' === end($words) && 1 !== preg_match(
            '/(?:national|passport|tax|social|personal|session|device|citizen|identity)_id$/',
            $this->words,
        )));
    }

    public function matches(string $pattern): ?string
    {
        return 1 === preg_match($pattern, $this->words, $m) ? trim(str_replace('_', ' ', $m[0])) : null;
    }
}
