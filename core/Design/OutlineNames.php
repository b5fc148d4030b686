<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Quotes;

/** Names within an outline, and what stands behind them. */
final class OutlineNames
{
    public function name(Piece $piece): string
    {
        $name = $piece->value();
        if ('' === trim($name)) {
            throw new NotUnderstood('A name was expected here.', $piece);
        }
        if (!$piece->isQuoted() && 1 === preg_match('/[^\p{L}\p{M}\p{N} _\-\'’.()]/u', $piece->text, $m) && !str_contains($piece->text, Piece::MARK)) {
            throw new NotUnderstood(\sprintf('A name that holds “%s” stands in quotation marks.', $m[0]), $piece, [Quotes::around($name)]);
        }
        if (str_contains($piece->text, Piece::MARK) && !$piece->isQuoted()) {
            throw new NotUnderstood('A name is quoted whole, or not at all.', $piece, ['"'.str_replace('"', '', $name).'"']);
        }

        return $name;
    }

    public function named(string $said): string
    {
        return trim(preg_replace('/\s+/u', ' ', $said) ?? $said);
    }

    /**
     * Names with commas and "and" between them.
     *
     * @param list<Piece> $pieces
     *
     * @return list<string>
     */
    public function names(array $pieces): array
    {
        $parts = array_merge(...array_map(static fn (Piece $piece): array => $piece->parts(), $pieces));

        return array_map(fn (Piece $part): string => $this->named($part->value()), $parts);
    }

    /** @param list<Piece> $pieces */
    public function rest(array $pieces, int $from): string
    {
        $rest = '';
        foreach (\array_slice($pieces, $from) as $i => $piece) {
            $rest .= (0 === $i ? '' : $piece->before.' ').$piece->value();
        }

        return $rest;
    }

    /** @param list<Piece> $pieces */
    public function option(array $pieces, int $from, string $word): ?string
    {
        foreach (\array_slice($pieces, $from) as $piece) {
            $m = $piece->match('/^'.$word.' (»)$/us') ?? throw new NotUnderstood(\sprintf('Here only stands “%s "…"”.', $word), $piece);

            return $m[0];
        }

        return null;
    }

    /** @param list<string> $words */
    public static function or(array $words): string
    {
        $last = array_pop($words);

        return [] === $words ? (string) $last : implode(', ', $words).' or '.$last;
    }
}
