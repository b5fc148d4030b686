<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Naming;

/** In which role a row refers to another, by the names of its fields: two joins between the same tables differ in nothing else. */
final class JoinRole
{
    /** What ends a role that is no noun: `approved by`, `replaces`. */
    private const NO_NOUNS = ['by', 'to', 'from', 'in', 'at', 'on', 'with', 'into', 'for', 'of', 'replaces', 'follows', 'precedes', 'extends', 'includes',
        'contains', 'uses', 'needs', 'supersedes', 'blocks'];

    /**
     * "as white", "(paid by)"; '' where the fields say no more than the name of the table or of its key.
     *
     * @param list<array{string, string}> $pairs field and field of the key
     */
    public static function of(array $pairs, string $to): string
    {
        $roles = [];
        foreach ($pairs as [$near, $far]) {
            $roles[implode(' ', 1 === \count($pairs) ? self::alone($near, $far, $to) : self::before($near, $far))] = true;
        }
        $role = 1 === \count($roles) ? (string) array_key_first($roles) : '';
        $words = explode(' ', $role);

        return match (true) {
            '' === $role => '',
            \in_array(end($words), self::NO_NOUNS, true) => "($role)",
            default => "as $role",
        };
    }

    /** @return list<string> of a field that refers by itself: its words without those of a key and of the table */
    private static function alone(string $near, string $far, string $to): array
    {
        $target = NameWords::singular(NameWords::of($to));
        $key = NameWords::of($far);
        $all = NameWords::of($near);
        $left = $all === $key ? [] : $all;
        if (\count($left) > \count($key) && !NameWords::isPlain($far) && \array_slice($left, -\count($key)) === $key) {
            $left = \array_slice($left, 0, -\count($key));
        }
        $ends = static fn (string $word): bool => NameWords::isSureEnding($word) || \in_array($word, $key, true) && NameWords::isKeyEnding($word);
        while ([] !== $left && $ends($left[\count($left) - 1])) {
            array_pop($left);
        }
        while (\count($left) > 1 && NameWords::isBefore($left[0])) {
            array_shift($left);
        }
        $folded = implode('', $target);
        $left = array_values(array_filter($left, static fn (string $word): bool => !\in_array($word, ['id', 'ref', 'fk'], true)
            && !\in_array(NameWords::singular([$word])[0], $target, true)
            && !NameWords::isShort($word, $folded) && [] === array_filter($target, static fn (string $long): bool => NameWords::isShort($word, $long))));

        // `sample_1` and `sample_2`: what is left needs its table.
        return [] !== $left && ctype_digit(implode('', $left)) ? [...$target, ...$left] : $left;
    }

    /** @return list<string> of one of several fields: what stands before the name of its field of the key */
    private static function before(string $near, string $far): array
    {
        $mine = Naming::words($near);
        $theirs = Naming::words($far);

        return \count($mine) > \count($theirs) && \array_slice($mine, -\count($theirs)) === $theirs ? \array_slice($mine, 0, -\count($theirs)) : [];
    }
}
