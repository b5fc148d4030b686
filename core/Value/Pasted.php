<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

/** Codes as people paste them: one a line, with what it means behind a tab, a semicolon, a comma, a colon or an equals sign. */
final class Pasted
{
    /**
     * @return array<array-key, string> code → label; of a code that stands twice, the first that says something
     *
     * @throws AllowedError naming the line
     */
    public static function codes(string $text, int $longest): array
    {
        $codes = [];
        $lines = preg_split('/\R/u', $text) ?: [];
        $sign = self::sign($lines);
        foreach ($lines as $i => $line) {
            if ('' === trim($line)) {
                continue;
            }
            $cells = '' === $sign ? [$line] : str_getcsv($line, $sign, '"', '');
            $code = trim($cells[0] ?? '');
            if ('' === $code || mb_strlen($code) > $longest) {
                throw new AllowedError(\sprintf('Line %d has no code of 1 to %d characters: “%s”.', $i + 1, $longest, mb_strimwidth(trim($line), 0, 60, '…')));
            }
            $label = trim(implode($sign.' ', array_map(static fn (?string $cell): string => trim((string) $cell), \array_slice($cells, 1))));
            $codes[$code] = '' !== ($codes[$code] ?? '') ? $codes[$code] : $label;
        }

        return $codes;
    }

    /** @param list<string> $lines */
    private static function sign(array $lines): string
    {
        $filled = array_filter($lines, static fn (string $line): bool => '' !== trim($line));
        foreach (["\t", ';', '=', ':', ','] as $sign) {
            $with = array_filter($filled, static fn (string $line): bool => str_contains($line, $sign));
            if ([] !== $filled && 2 * \count($with) > \count($filled)) {
                return $sign;
            }
        }

        return '';
    }
}
