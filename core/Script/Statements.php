<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Dialect\Grammar;

/**
 * Splits a script into statements as it streams by, so that a dump with its data needs no more memory than its longest
 * statement. Comments become blanks; line ends are kept, so that places within a statement have their line.
 *
 * Understood besides: conditional comments and DELIMITER of MySQL's family, data of COPY and lines of psql, dollar quotes,
 * and bodies of triggers and routines with statements of their own.
 *
 * @implements \IteratorAggregate<int, array{string, int, bool}>
 */
final class Statements implements \IteratorAggregate
{
    private const CHUNK = 1 << 18;

    /** @param resource $stream */
    public function __construct(private readonly mixed $stream, private readonly Grammar $dialect)
    {
    }

    /** @return \Generator<int, array{string, int, bool}> text, number of its first line, and whether it is whole: false where the script breaks off */
    public function getIterator(): \Generator
    {
        $pattern = $this->pattern();
        $buffer = '';
        $at = 0;
        $line = 1;
        [$text, $started, $delimiter, $ended] = ['', 0, ';', false];
        while (true) {
            if ($at > self::CHUNK) {
                [$buffer, $at] = [substr($buffer, $at), 0];
            }
            // A token that reaches the end of the buffer may go on; it is looked at again when there is more.
            if (!$ended && \strlen($buffer) - $at < 4096) {
                $ended = !$this->more($buffer);
            }
            if ($at >= \strlen($buffer)) {
                break;
            }
            $fits = preg_match($pattern, $buffer, $m, 0, $at);
            while (!$ended && (1 !== $fits || $at + \strlen($m[0]) >= \strlen($buffer) - 2)) {
                $ended = !$this->more($buffer);
                $fits = preg_match($pattern, $buffer, $m, 0, $at);
            }
            if (1 !== $fits) {
                yield [$text.substr($buffer, $at), $started ?: $line, false];

                return;
            }
            $token = $m[0];
            $length = \strlen($token);
            $lines = substr_count($token, "\n");
            $kind = $m['MARK'] ?? '';
            if ('' === $text && ('word' === $kind || 'other' === $kind) && \in_array($token[0], ['\\', 'D', 'd'], true) && 1 === preg_match(
                '/\G(?:\\\\[^\n]*|delimiter[ \t]+(\S+)[^\n]*)/i',
                $buffer,
                $n,
                0,
                $at,
            ) && ($this->dialect->delimiters || '\\' === $token[0])) {
                $delimiter = $n[1] ?? $delimiter;
                $at += \strlen($n[0]);
                continue;
            }
            if ('word' !== $kind && ';' === $token[0] || (';' !== $delimiter && 0 === substr_compare($buffer, $delimiter, $at, \strlen($delimiter)))) {
                if (';' !== $delimiter && 0 !== substr_compare($buffer, $delimiter, $at, \strlen($delimiter))) {
                    $text .= $token;
                    $at += $length;
                    continue;
                }
                if (';' === $delimiter && !self::complete($text)) {
                    $text .= ';';
                    ++$at;
                    continue;
                }
                $at += \strlen($delimiter);
                if ('' !== trim($text)) {
                    yield [$text, $started, true];
                }
                if ($this->dialect->copiedRows && 1 === preg_match('/^\s*COPY\b.*\bFROM\s+stdin\b/is', $text)) {
                    $line += $this->skipData($buffer, $at);
                }
                [$text, $started] = ['', 0];
                continue;
            }
            $blank = 'comment' === $kind || 'blank' === $kind;
            if (0 === $started && !$blank) {
                $started = $line;
            }
            if ('' !== $text || !$blank) {
                $text .= 'comment' === $kind ? ($lines > 0 ? str_repeat("\n", $lines) : ' ') : $token;
            }
            $line += $lines;
            $at += $length;
        }
        if ('' !== trim($text)) {
            yield [$text, $started, false];
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
                [$buffer, $at] = [substr($buffer, $cut), 0];
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
    private static function complete(string $text): bool
    {
        if (1 !== preg_match('/^\s*CREATE\b[^(]{0,200}?\b(?:TRIGGER|PROCEDURE|FUNCTION|EVENT)\b/i', $text) || 1 !== preg_match('/\bBEGIN\b/i', $text)) {
            return true;
        }
        $bare = (string) preg_replace("/'(?:[^']|'')*'|\"[^\"]*\"|`[^`]*`/", '', $text);
        $opened = preg_match_all('/(?<!END )\b(?:BEGIN|CASE)\b/i', $bare);
        $closed = preg_match_all('/\bEND\b(?!\s+(?:IF|LOOP|WHILE|REPEAT|FOR)\b)/i', $bare);

        return $closed >= $opened;
    }

    private function pattern(): string
    {
        $d = $this->dialect;
        $plain = "'(?:[^']++|'')*+'";
        $escaped = "'(?:[^'\\\\]++|\\\\.|'')*+'";
        $text = $d->backslashes ? $escaped : ($d->escapeTexts ? "(?<=[eE])$escaped|$plain" : $plain);
        $quoted = $d->doubleQuotedTexts ? '"(?:[^"\\\\]++|\\\\.|"")*+"' : '"(?:[^"]++|"")*+"';
        $quoted .= ($d->backticks ? '|`(?:[^`]++|``)*+`' : '').($d->brackets ? '|\[[^\]]*+\]' : '');
        $comment = '--(?=[\s]|$)[^\n]*+|'.($d->hashAndVersionComments ? '\#[^\n]*+|/\*[M]?!\d*|\*/|' : '--[^\n]*+|')
            .($d->nestedComments ? '(?<nested>/\*(?:[^*/]++|\*(?!/)|/(?!\*)|(?&nested))*+\*/)' : '/\*(?!M?!)[\s\S]*?\*/');
        $dollar = $d->dollarTexts ? '(?<![\w$])\$(?<tag>\w*)\$[\s\S]*?\$\k<tag>\$(*MARK:text)|' : '';

        return "~\\G(?:\\s++(*MARK:blank)|[\\w\\x80-\\xff$]*+[\\w\\x80-\\xff](*MARK:word)|(?:$text)(*MARK:text)|(?:$quoted)(*MARK:text)|(?:$comment)(*MARK:comment)|$dollar(?:[^'\"`\\[](*MARK:other)|[\\[](*MARK:other)))~s";
    }
}
