<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What stands between two commas or semicolons of a line. */
final readonly class Piece
{
    /** Stands for what is quoted, so that patterns need not know of it; private to Unicode, so that nobody writes it. */
    public const MARK = "\u{E000}";

    /**
     * @param string       $text   without what is quoted: MARK stands in its place
     * @param list<string> $quotes what is quoted, in order, without its quotation marks
     * @param int          $at     in characters from the beginning of the line
     * @param string       $before the comma or semicolon before it; '' for the first
     */
    public function __construct(public string $text, public array $quotes, public int $at, public int $length, public string $before)
    {
    }

    /**
     * Takes a line apart. A comma within a figure (9,999.99) is none.
     *
     * @return list<self>
     *
     * @throws NotUnderstood where a quotation mark is never closed
     */
    public static function all(string $line): array
    {
        if (false === strpbrk($line, '"$')) {
            return self::unquoted($line);
        }
        /** @var list<self> $pieces */
        $pieces = [];
        /** @var string $text */
        $text = '';
        $quotes = [];
        $start = $at = 0;
        /** @var string $before */
        $before = '';
        $ends = static function () use (&$pieces, &$text, &$quotes, &$start, &$at, &$before): void {
            $lead = mb_strlen($text) - mb_strlen(ltrim($text));
            $trimmed = trim($text);
            if ('' !== $trimmed || '' !== $before) {
                $words = preg_replace('/\s+/u', ' ', $trimmed) ?? $trimmed;
                $pieces[] = new self($words, $quotes, $start + $lead, max(1, $at - $start - $lead), $before);
            }
            $text = '';
            $quotes = [];
            $start = $at + 1;
        };
        preg_match_all('/"(?:[^"]|"")*"|\$(\w*)\$.*?\$\1\$|(?<=\d),(?=\d{3}(?!\d))|[,;]|[^",;$\d]+|\d+|./su', $line, $found);
        foreach ($found[0] as $part) {
            $sign = $part[0];
            if (',' === $part && 1 === preg_match('/\d$/', $text) && 1 === preg_match('/^\d{3}(?!\d)/', mb_substr($line, $at + 1, 4))) {
                $text .= $part;
            } elseif (',' === $part || ';' === $part) {
                $ends();
                $before = $part;
            } elseif ('"' === $sign && \strlen($part) > 1) {
                $quotes[] = str_replace('""', '"', substr($part, 1, -1));
                $text .= self::MARK;
            } elseif ('$' === $sign && 1 === preg_match('/^\$(\w*)\$(.*)\$\1\$$/su', $part, $m)) {
                $quotes[] = $m[2];
                $text .= self::MARK;
            } elseif ('"' === $sign) {
                throw new NotUnderstood('A quotation mark that begins here is never closed.', new self('"', [], $at, max(1, mb_strlen($line) - $at), ''));
            } else {
                $text .= $part;
            }
            $at += mb_strlen($part);
        }
        $ends();

        return $pieces;
    }

    /**
     * Most lines quote nothing; they are taken apart in one go.
     *
     * @return list<self>
     */
    private static function unquoted(string $line): array
    {
        $pieces = [];
        $plain = mb_check_encoding($line, 'ASCII');
        foreach (preg_split('/(?<!\d),|,(?!\d{3}(?!\d))|;/', $line, -1, \PREG_SPLIT_OFFSET_CAPTURE) ?: [] as [$text, $offset]) {
            $before = 0 === $offset ? '' : $line[$offset - 1];
            $words = trim($text);
            if ('' === $words && '' === $before) {
                continue;
            }
            $lead = \strlen($text) - \strlen(ltrim($text));
            if (str_contains($words, '  ') || str_contains($words, "\t")) {
                $words = preg_replace('/\s+/u', ' ', $words) ?? $words;
            }
            $at = $offset + $lead;
            $length = \strlen($text) - $lead;
            $pieces[] = $plain ? new self($words, [], $at, max(1, $length), $before)
                : new self($words, [], mb_strlen(substr($line, 0, $at)), max(1, mb_strlen(substr($text, $lead))), $before);
        }

        return $pieces;
    }

    /**
     * Its parts between "and", or what else stands between; what is quoted stays whole.
     *
     * @return list<self>
     */
    public function parts(string $between = '/^and | and /u'): array
    {
        $parts = [];
        $quotes = $this->quotes;
        foreach (preg_split($between, $this->text) ?: [] as $text) {
            $count = substr_count($text, self::MARK);
            if ('' !== trim($text)) {
                $parts[] = new self(trim($text), \array_slice($quotes, 0, $count), $this->at, $this->length, $this->before);
            }
            $quotes = \array_slice($quotes, $count);
        }

        return $parts;
    }

    /** What comes after a beginning that a pattern describes; the whole where it begins otherwise. */
    public function after(string $pattern): self
    {
        if (1 !== preg_match($pattern, $this->text, $m)) {
            return $this;
        }

        return new self(
            substr($this->text, \strlen($m[0])),
            \array_slice($this->quotes, substr_count($m[0], self::MARK)),
            $this->at,
            $this->length,
            $this->before,
        );
    }

    /** It is one quoted text and nothing else. */
    public function isQuoted(): bool
    {
        return self::MARK === $this->text;
    }

    /** As a name or a value: unquoted, quotes within put back. */
    public function value(): string
    {
        return self::put($this->text, $this->quotes);
    }

    /** @param list<string> $quotes */
    public static function put(string $text, array $quotes): string
    {
        foreach ($quotes as $quote) {
            $at = strpos($text, self::MARK);
            if (false === $at) {
                break;
            }
            $text = substr_replace($text, $quote, $at, \strlen(self::MARK));
        }

        return $text;
    }

    /**
     * Matches a pattern in which » stands for something quoted.
     *
     * @return list<string>|null the groups, with what was quoted put back
     */
    public function match(string $pattern): ?array
    {
        if (1 !== preg_match(str_replace('»', self::MARK, $pattern), $this->text, $m, \PREG_UNMATCHED_AS_NULL | \PREG_OFFSET_CAPTURE)) {
            return null;
        }
        $groups = [];
        foreach (\array_slice($m, 1) as [$text, $at]) {
            // How many quoted ones stand before the group tells which are its own.
            $groups[] = null === $text ? '' : self::put($text, \array_slice($this->quotes, substr_count(substr($this->text, 0, $at), self::MARK)));
        }

        return $groups;
    }
}
