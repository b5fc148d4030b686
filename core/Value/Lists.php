<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

/** The code lists that ship with the application, in standard/: one JSON file each, made by standard/make.php. */
final class Lists
{
    /** What a field is likely to hold, by its profile and by the length of its codes → list. */
    private const LIKELY = ['country' => [2 => 'countries, two letters', 3 => 'countries, three letters'], 'currency' => [3 => 'currencies'],
        'language' => [2 => 'languages']];

    /** @var array<string, StandardList>|null */
    private static ?array $lists = null;

    /** @return array<string, StandardList> by name */
    public static function all(): array
    {
        if (null === self::$lists) {
            self::$lists = [];
            foreach (glob(__DIR__.'/standard/*.json') ?: [] as $file) {
                $data = json_decode((string) file_get_contents($file), true);
                if (\is_array($data) && \is_string($data['name'] ?? null) && \is_array($data['codes'] ?? null)) {
                    $meaning = \is_string($data['meaning'] ?? null) ? $data['meaning'] : '';
                    self::$lists[$data['name']] = new StandardList($data['name'], $meaning, array_filter($data['codes'], is_string(...)));
                }
            }
        }

        return self::$lists;
    }

    public static function named(string $name): ?StandardList
    {
        return self::all()[mb_strtolower(trim($name))] ?? null;
    }

    /**
     * The list that a field's values are likely to be from.
     *
     * @param string       $likely what a profile takes it for; '' where nobody has looked
     * @param list<string> $words  of its name
     * @param ?int         $length of its type
     */
    public static function likely(string $likely, array $words, ?int $length): ?StandardList
    {
        foreach (self::LIKELY as $what => $byLength) {
            $named = \in_array($what, $words, true) && '' === $likely && isset($byLength[$length ?? 0]);
            if (str_starts_with($likely, $what.' code') || $named) {
                $name = $byLength[$length ?? 0] ?? array_values($byLength)[0];

                return self::named($name);
            }
        }

        return null;
    }
}
