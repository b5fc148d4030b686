<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * The text of a note, broken into lines. Of Markdown it knows what fits a note: paragraphs, items of lists, headings, strong, stressed,
 * code and links; anything else stands as it was written.
 */
final class NoteText
{
    private const INLINE = '/(`+)(?<code>.+?)\1|\*\*(?<strong>.+?)\*\*|__(?<strong2>.+?)__|\*(?<em>[^\s*].*?)\*'
        .'|(?<![\w])_(?<em2>[^\s_].*?)_(?![\w])|\[(?<text>[^\]]+)\]\((?<link>[^)\s]+)\)/u';

    /** @return list<list<NoteSpan>> */
    public static function lines(string $text, float $width): array
    {
        $lines = [];
        $paragraph = '';
        foreach ([...preg_split('/\R/u', mb_scrub($text)) ?: [], ''] as $line) {
            $line = rtrim($line);
            $item = 1 === preg_match('/^\s*(?:[-*+]|\d+[.)])\s+/u', $line);
            $heading = 1 === preg_match('/^#{1,6}\s+(.*)$/u', $line, $m);
            if ('' === $line || $item || $heading) {
                array_push($lines, ...self::broken($paragraph, $width));
                $paragraph = '';
            }
            if ('' === $line) {
                if ([] === $lines || [] === $lines[\count($lines) - 1]) {
                } else {
                    $lines[] = [];
                }
            } elseif ($heading) {
                array_push($lines, ...self::broken('**'.trim($m[1] ?? '').'**', $width));
            } elseif ($item) {
                $paragraph = preg_replace('/^\s*[-*+]\s+/u', '• ', $line) ?? $line;
            } else {
                $paragraph .= ('' === $paragraph ? '' : ' ').trim($line);
            }
        }
        while ([] !== $lines && [] === $lines[\count($lines) - 1]) {
            array_pop($lines);
        }

        return $lines;
    }

    /** @return list<list<NoteSpan>> */
    private static function broken(string $paragraph, float $width): array
    {
        if ('' === $paragraph) {
            return [];
        }
        $lines = [];
        $line = [];
        $at = 0.0;
        foreach (self::spans($paragraph) as $span) {
            foreach (preg_split('/(?<= )/u', $span->text) ?: [] as $word) {
                foreach (self::pieces(new NoteSpan($word, $span->style, $span->link), $width) as $piece) {
                    $wide = (new NoteSpan(rtrim($piece->text), $piece->style))->width(Note::TEXT_SIZE);
                    if ($at > 0 && $at + $wide > $width) {
                        $lines[] = $line;
                        $line = [];
                        $at = 0.0;
                    }
                    $last = [] === $line ? null : $line[\count($line) - 1];
                    if (null !== $last && $last->style === $piece->style && $last->link === $piece->link) {
                        $line[\count($line) - 1] = new NoteSpan($last->text.$piece->text, $piece->style, $piece->link);
                    } else {
                        $line[] = $piece;
                    }
                    $at += $piece->width(Note::TEXT_SIZE);
                }
            }
        }
        $lines[] = $line;

        return $lines;
    }

    /** @return list<NoteSpan> a word that is wider than a line, in pieces that are not */
    private static function pieces(NoteSpan $word, float $width): array
    {
        if ($word->width(Note::TEXT_SIZE) <= $width || mb_strlen($word->text) < 4) {
            return [$word];
        }
        $pieces = [];
        $some = '';
        foreach (mb_str_split($word->text) as $letter) {
            if ('' !== $some && (new NoteSpan($some.$letter, $word->style))->width(Note::TEXT_SIZE) > $width) {
                $pieces[] = new NoteSpan($some, $word->style, $word->link);
                $some = '';
            }
            $some .= $letter;
        }
        $pieces[] = new NoteSpan($some, $word->style, $word->link);

        return $pieces;
    }

    /** @return list<NoteSpan> */
    private static function spans(string $text): array
    {
        $spans = [];
        $at = 0;
        preg_match_all(self::INLINE, $text, $found, \PREG_SET_ORDER | \PREG_OFFSET_CAPTURE | \PREG_UNMATCHED_AS_NULL);
        foreach ($found as $m) {
            $spans[] = new NoteSpan(substr($text, $at, (int) $m[0][1] - $at));
            $get = static fn (string $name): ?string => $m[$name][0] ?? null;
            $spans[] = match (true) {
                null !== $get('code') => new NoteSpan($get('code'), 'code'),
                null !== $get('text') => self::link($get('text'), $get('link') ?? '', (string) $m[0][0]),
                null !== ($strong = $get('strong') ?? $get('strong2')) => new NoteSpan($strong, 'strong'),
                default => new NoteSpan($get('em') ?? $get('em2') ?? '', 'stressed'),
            };
            $at = (int) $m[0][1] + \strlen((string) $m[0][0]);
        }
        $spans[] = new NoteSpan(substr($text, $at));

        return array_values(array_filter($spans, static fn (NoteSpan $span): bool => '' !== $span->text));
    }

    /** Only addresses of the web and of this register are links; anything else is shown as it was written. */
    private static function link(string $words, string $address, string $written): NoteSpan
    {
        return 1 === preg_match('~^(?:https?://|mailto:|/(?!/))~i', $address) ? new NoteSpan($words, 'plain', $address) : new NoteSpan($written);
    }
}
