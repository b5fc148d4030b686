<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/**
 * What check constraints say of one field, in the forms in which engines print them: `c in ('A','B')`,
 * `((c)::text = ANY ((ARRAY['A'::character varying, …])::text[]))`, `c between 0 and 100`, `c >= 0`. Anything besides is left alone.
 */
final class Checks
{
    private const TEXT = "'((?:[^']|'')*)'(?:::[a-z ]+(?:\\(\\d+\\))?(?:\\[\\])?)?";
    private const NUMBER = "\\(?\\(?'?(-?\\d+(?:\\.\\d+)?)'?\\)?(?:::[a-z ]+)?\\)?";

    /** @return list<string>|null the only values allowed */
    public static function values(string $expression, string $field): ?array
    {
        $name = self::name($field);
        $list = self::TEXT.'(?:\s*,\s*'.self::TEXT.')*';
        $numbers = '-?\d+(?:\s*,\s*-?\d+)*';
        if (1 === preg_match('/^\(*\s*'.$name.'\s+in\s*\(\s*(?<list>'.$list.'|'.$numbers.')\s*\)\s*\)*$/iu', $expression, $m)
            || 1 === preg_match('/^\(*\s*'.$name.'\s*=\s*ANY\s*\(+\s*ARRAY\[(?<list>'.$list.'|'.$numbers.')\]\)?(?:::[a-z ]+\[\])?\)*$/iu', $expression, $m)) {
            if (1 === preg_match('/^'.$numbers.'$/', $m['list'])) {
                return array_values(array_filter(preg_split('/\s*,\s*/', $m['list']) ?: [], static fn (string $one): bool => '' !== $one));
            }
            preg_match_all('/'.self::TEXT.'/u', $m['list'], $texts);

            return array_map(static fn (string $text): string => str_replace("''", "'", $text), $texts[1]);
        }
        if (1 === preg_match('/^\(*\s*(?:'.$name.'\s*=\s*'.self::TEXT.'\)?\s*(?:or\s*\(?)?\s*)+\)*$/iu', $expression)) {
            preg_match_all('/=\s*'.self::TEXT.'/u', $expression, $texts);

            return \count($texts[1]) > 1 ? array_map(static fn (string $text): string => str_replace("''", "'", $text), $texts[1]) : null;
        }

        return null;
    }

    /** @return array{string, string}|null */
    public static function range(string $expression, string $field): ?array
    {
        $name = self::name($field);
        $number = self::NUMBER;
        if (1 === preg_match("/^\(*\s*$name\s+between\s+$number\s+and\s+$number\s*\)*$/iu", $expression, $m)
            || 1 === preg_match("/^\(*\s*$name\s*>=\s*$number\)*\s+and\s+\(*$name\s*<=\s*$number\s*\)*$/iu", $expression, $m)) {
            return [$m[1], $m[2]];
        }
        if (1 === preg_match("/^\(*\s*$name\s*>=\s*$number\s*\)*$/iu", $expression, $m)) {
            return [$m[1], ''];
        }

        return 1 === preg_match("/^\(*\s*$name\s*<=\s*$number\s*\)*$/iu", $expression, $m) ? ['', $m[1]] : null;
    }

    private static function name(string $field): string
    {
        $quoted = preg_quote($field, '/');

        return '\(*(?:`'.$quoted.'`|"'.$quoted.'"|'.$quoted.')\)*(?:::[a-z ]+)?';
    }
}
