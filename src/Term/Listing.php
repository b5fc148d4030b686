<?php

declare(strict_types=1);

namespace Fasti\Term;

use Fasti\Text\BadText;

/** Terms as people paste them from a sheet or a list: one a line, with its definition, area and other words behind tabs or semicolons. */
final class Listing
{
    /**
     * @return list<array{name: string, area: string, definition: string, synonyms: string}>
     *
     * @throws BadText naming the line
     */
    public static function read(string $text): array
    {
        $terms = [];
        $sign = str_contains($text, "\t") ? "\t" : ';';
        foreach (preg_split('/\R/u', $text) ?: [] as $i => $line) {
            if ('' === trim($line)) {
                continue;
            }
            $cells = array_map(static fn (?string $cell): string => trim((string) $cell), str_getcsv($line, $sign, '"', ''));
            if ('' === $cells[0]) {
                throw new BadText(\sprintf('Line %d has no term before its first %s: “%s”.', $i + 1, "\t" === $sign ? 'tab' : 'semicolon',
                    mb_strimwidth(trim($line), 0, 60, '…')));
            }
            if (\count($cells) > 4) {
                throw new BadText(\sprintf('Line %d has %d parts; there are four: term, definition, area, other words. Put a part that has a %s in it in '
                    .'quotation marks.',
                    $i + 1, \count($cells), "\t" === $sign ? 'tab' : 'semicolon'));
            }
            $terms[] = ['name' => $cells[0], 'definition' => $cells[1] ?? '', 'area' => $cells[2] ?? '', 'synonyms' => $cells[3] ?? ''];
        }

        return $terms;
    }
}
