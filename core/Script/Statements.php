<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Dialect\Grammar;

/**
 * Splits a script into statements as it streams by, so that a dump with its data needs no more memory than its longest
 * statement. A statement is text as it stands in the script, with its comments; what only engines of other versions read is
 * left out of it, and line ends are kept, so that places within a statement have their line.
 *
 * Understood besides: conditional comments and DELIMITER of MySQL's family, data of COPY and lines of psql, lines of
 * SQLite's shell, dollar quotes, GO and / on a line of their own, and bodies of triggers and routines with statements of
 * their own. Where such a body has no end, reading goes on at the next line that begins a statement.
 *
 * @implements \IteratorAggregate<int, array{string, int, bool}>
 */
final class Statements implements \IteratorAggregate
{
    private const CHUNK = 1 << 18;
    private const PROGRAM = '/^\s*CREATE\s+(?:OR\s+(?:REPLACE|ALTER)\s+)?(?:DEFINER\s*=\s*\S+(?:\s*@\s*\S+)?\s+|AGGREGATE\s+|TEMP(?:ORARY)?\s+'
        .'|CONSTRAINT\s+|(?:NON)?EDITIONABLE\s+|GLOBAL\s+|LOCAL\s+)*(?:TRIGGER|PROCEDURE|FUNCTION|EVENT|PACKAGE)\b|^\s*BEGIN\s+NOT\s+ATOMIC\b/i';
    /** A later statement of a body that does not end. */
    private const AGAIN = '/;[ \t]*\r?\n\s*(?=(?:CREATE|ALTER|DROP|INSERT|DELIMITER)\s)/i';

    /** Kinds of words that say nothing. */
    private const UNSAID = ['comment' => true, 'blank' => true, 'mark' => true];
    /** What stands for a word where only what a statement is made of matters. */
    private const BARE = ['text' => ' _ ', 'comment' => ' ', 'blank' => ' ', 'mark' => ' '];

    /** @param resource $stream */
    public function __construct(private readonly mixed $stream, private readonly Grammar $dialect, private readonly int $line = 1)
    {
    }

    /** @return \Generator<int, array{string, int, bool}> text, number of its first line, and whether it is whole: false where the script breaks off */
    public function getIterator(): \Generator
    {
        $quoting = $this->dialect->signs->doubleQuotedTexts;
        $pattern = $this->pattern();
        $buffer = '';
        $at = 0;
        $line = $this->line;
        // The text of the present statement, and the same with blanks for texts, quoted names and comments.
        $text = '';
        $bare = '';
        $started = 0;
        $delimiter = ';';
        $ended = false;
        $fresh = true;
        while (true) {
            if ($at > self::CHUNK) {
                $buffer = substr($buffer, $at);
                $at = 0;
            }
            // A token that reaches the end of the buffer may go on; it is looked at again when there is more.
            if (!$ended && \strlen($buffer) - $at < 4096) {
                $ended = !$this->more($buffer);
            }
            if ($at >= \strlen($buffer)) {
                break;
            }
            if ($quoting !== $this->dialect->signs->doubleQuotedTexts) {
                $quoting = $this->dialect->signs->doubleQuotedTexts;
                $pattern = $this->pattern();
            }
            $fits = preg_match($pattern, $buffer, $m, 0, $at);
            while (!$ended && (1 !== $fits || $at + \strlen($m[0]) >= \strlen($buffer) - 2 || 'open' === ($m['MARK'] ?? ''))) {
                $ended = !$this->more($buffer);
                $fits = preg_match($pattern, $buffer, $m, 0, $at);
            }
            if (1 !== $fits) {
                yield [$text.substr($buffer, $at), $started ?: $line, false];

                return;
            }
            $token = $m[0];
            $kind = $m['MARK'] ?? '';
            if ($fresh && 'blank' !== $kind && null !== ($command = $this->command($buffer, $at, '' === trim($bare)))) {
                [$skipped, $word, $ends] = $command;
                $delimiter = '' === $word ? $delimiter : $word;
                $at += $skipped;
                if ($ends && '' !== trim($bare)) {
                    yield [$text, $started, true];
                    $text = '';
                    $bare = '';
                    $started = 0;
                }
                continue;
            }
            if (';' !== $delimiter ? 'text' !== $kind && 0 === substr_compare($buffer, $delimiter, $at, \strlen($delimiter)) : ';' === $token) {
                $at += \strlen($delimiter);
                if (';' === $delimiter && !$this->complete($bare)) {
                    $text .= ';';
                    $bare .= ';';
                    continue;
                }
                yield from $this->statement($text, $bare, $started, ';' !== $delimiter);
                $line += $this->data($bare, $buffer, $at);
                $text = '';
                $bare = '';
                $started = 0;
                $fresh = false;
                continue;
            }
            if (';' !== $delimiter && 'word' === $kind && false !== ($cut = strpos($token, $delimiter)) && $cut > 0) {
                // The sign that ends a statement may stand right behind a word.
                $token = substr($token, 0, $cut);
            }
            $lines = substr_count($token, "\n");
            if (0 === $started && !isset(self::UNSAID[$kind])) {
                $started = $line;
                $text = '';
                $bare = '';
            }
            if (0 !== $started) {
                $text .= 'comment' === $kind || 'mark' === $kind ? $this->unsaid($token, $kind, $lines) : $token;
                $bare .= self::BARE[$kind] ?? $token;
            }
            $line += $lines;
            $at += \strlen($token);
            $fresh = 'blank' === $kind || 'comment' === $kind ? $fresh && 0 === $lines || $lines > 0 : false;
        }
        yield from $this->last($text, $bare, $started, ';' === $delimiter);
    }

    /**
     * A statement whose sign has come.
     *
     * @return \Generator<int, array{string, int, bool}>
     */
    private function statement(string $text, string $bare, int $started, bool $delimited): \Generator
    {
        if ($delimited && str_contains($bare, ';')) {
            yield from $this->within($text, $bare, $started);
        } elseif ('' !== trim($bare)) {
            yield [$text, $started, true];
        }
    }

    /** How many lines of data follow the statement, which are gone past. */
    private function data(string $bare, string &$buffer, int &$at): int
    {
        return $this->dialect->signs->copiedRows && 1 === preg_match('/^\s*COPY\b.*\bFROM\s+stdin\b/is', $bare) ? $this->skipData($buffer, $at) : 0;
    }

    /** What stands in a statement for a comment or a mark of versions. */
    private function unsaid(string $token, string $kind, int $lines): string
    {
        if ('mark' === $kind) {
            return ' ';
        }
        if (1 !== preg_match('~^/\*M?!~', $token)) {
            return $token;
        }

        // What is for other versions is not there at all.
        return $lines > 0 ? str_repeat("\n", $lines) : ' ';
    }

    /**
     * What is left where the script ends.
     *
     * @return \Generator<int, array{string, int, bool}>
     */
    private function last(string $text, string $bare, int $started, bool $undelimited): \Generator
    {
        if ('' === trim($bare)) {
            return;
        }
        if (!$this->complete($bare) && 1 === preg_match(self::AGAIN, $text, $m, \PREG_OFFSET_CAPTURE)) {
            $cut = $m[0][1] + 1;
            yield [substr($text, 0, $cut - 1), $started, false];
            $rest = fopen('php://temp', 'r+') ?: throw new \RuntimeException('No memory for the rest of the script.');
            fwrite($rest, substr($text, $cut));
            rewind($rest);
            yield from new self($rest, $this->dialect, $started + substr_count($text, "\n", 0, $cut));

            return;
        }
        $closed = substr_count($bare, '(') <= substr_count($bare, ')');
        yield [$text, $started, $undelimited && $closed && $this->complete($bare)];
    }

    /**
     * A line that is for the client rather than for the server.
     *
     * @return array{int, string, bool}|null its length, the new sign that ends statements or '', and whether it ends one
     */
    private function command(string $buffer, int $at, bool $between): ?array
    {
        $d = $this->dialect;
        if ($between && $d->signs->delimiters && 1 === preg_match('/\Gdelimiter[ \t]+(\S+)[^\n]*/i', $buffer, $m, 0, $at)) {
            return [\strlen($m[0]), $m[1], false];
        }
        if ($between && 1 === preg_match($d->catalog->rowids ? '/\G(?:\\\\|\.[a-z])[^\n]*/' : '/\G\\\\[^\n]*/', $buffer, $m, 0, $at)) {
            return [\strlen($m[0]), '', false];
        }
        if ($d->signs->batches && 1 === preg_match('~\G(?:GO(?:[ \t]+\d+)?|/)[ \t]*(?=\r?\n|\z)~i', $buffer, $m, 0, $at)) {
            return [\strlen($m[0]), '', true];
        }

        return null;
    }

    /**
     * Statements between two signs of DELIMITER.
     *
     * @return \Generator<int, array{string, int, bool}>
     */
    private function within(string $text, string $bare, int $line): \Generator
    {
        if (1 === preg_match(self::PROGRAM, $bare)) {
            yield [rtrim($text), $line, true];

            return;
        }
        $stream = fopen('php://temp', 'r+') ?: throw new \RuntimeException('No memory for the script.');
        fwrite($stream, $text);
        rewind($stream);
        foreach (new self($stream, $this->dialect, $line) as [$inner, $at, $whole]) {
            yield [$inner, $at, $whole || 1 !== preg_match(self::PROGRAM, $inner)];
        }
    }

    private function more(string &$buffer): bool
    {
        $chunk = fread($this->stream, self::CHUNK);
        if (false === $chunk || '' === $chunk) {
            return false;
        }
        $buffer .= $chunk;

        return true;
    }

    /** Everything up to the line `\.`; a dump ends each table's data with it. */
    private function skipData(string &$buffer, int &$at): int
    {
        $lines = 0;
        while (1 !== preg_match('/\G[\s\S]*?^\\\\\.[ \t\r]*$/m', $buffer, $m, 0, $at)) {
            $cut = strrpos($buffer, "\n");
            if (false !== $cut && $cut > $at) {
                $lines += substr_count($buffer, "\n", $at, $cut - $at);
                $buffer = substr($buffer, $cut);
                $at = 0;
            }
            if (!$this->more($buffer)) {
                $at = \strlen($buffer);

                return $lines;
            }
        }
        $at += \strlen($m[0]);

        return $lines + substr_count($m[0], "\n");
    }

    /** Whether a semicolon ends the statement, rather than one of those in the body of a trigger or routine. */
    private function complete(string $bare): bool
    {
        if (1 !== preg_match(self::PROGRAM, $bare)) {
            return true;
        }
        if ($this->dialect->signs->dollarTexts && 1 !== preg_match('/\bBEGIN\s+ATOMIC\b/i', $bare)) {
            return true;
        }
        if (1 !== preg_match('/(?<![.@:])\bBEGIN\b/i', $bare)) {
            return true;
        }
        $words = (string) preg_replace('/(?<=[.@:])\w+|\bEND\s+(?:IF|LOOP|WHILE|REPEAT|FOR)\b/i', '', $bare);
        $words = (string) preg_replace('/\bEND\s+CASE\b/i', 'END', $words);

        return preg_match_all('/\bEND\b/i', $words) >= preg_match_all('/\b(?:BEGIN|CASE)\b/i', $words);
    }

    private function pattern(): string
    {
        $d = $this->dialect;
        $plain = "'(?:[^']++|'')*+'";
        $escaped = "'(?:[^'\\\\]++|\\\\.|'')*+'";
        $text = $d->signs->backslashes ? $escaped : $plain;
        if ($d->signs->escapeTexts) {
            $text = "[eE]$escaped|$text";
        }
        $quoted = $d->signs->doubleQuotedTexts ? '"(?:[^"\\\\]++|\\\\.|"")*+"' : '"(?:[^"]++|"")*+"';
        $quoted .= ($d->signs->backticks ? '|`(?:[^`]++|``)*+`' : '').($d->signs->brackets ? '|\[[^\]]*+\]' : '');
        $line = $d->signs->hashAndVersionComments ? '--(?=[\s]|$)[^\n]*+|\#[^\n]*+' : '--[^\n]*+';
        $block = $d->signs->nestedComments ? '(?<nested>/\*(?:[^*/]++|\*(?!/)|/(?!\*)|(?&nested))*+\*/)' : '/\*[\s\S]*?\*/';
        $marks = $d->signs->versionMarks;
        $dollar = $d->signs->dollarTexts
            ? '(?<tag>\$(?:[A-Za-z_\x80-\xff][\w\x80-\xff]*+)?\$)[\s\S]*?\k<tag>(*MARK:text)|\$(?:[A-Za-z_\x80-\xff][\w\x80-\xff]*+)?\$(*MARK:open)|'
            : '';

        return "~\\G(?:\\s++(*MARK:blank)|(?:$text)(*MARK:text)|{$dollar}[\\w\\x80-\\xff][\\w\\x80-\\xff$]*+(*MARK:word)|(?:$quoted)(*MARK:text)"
            .('' === $marks ? '' : "|(?:$marks|\\*/)(*MARK:mark)")
            ."|(?:$line)(*MARK:comment)|(?:$block)(*MARK:comment)|/\\*(*MARK:open)|[^'\"".($d->signs->backticks ? '`' : '').'](*MARK:other))~s';
    }
}
