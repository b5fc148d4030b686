<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Survey\SourceError;

/**
 * The documents of a file, one by one: one a line, or the elements of an array, or one after another. Files of any size
 * are streamed; memory grows with the greatest document only.
 *
 * @implements \IteratorAggregate<int, array{mixed, string, int}>
 */
final class JsonDocuments implements \IteratorAggregate
{
    public const DEPTH = 512;
    private const CHUNK = 1 << 18;
    /** A single document greater than this is not taken for one: the file is broken, or something else. */
    private const MOST_BYTES = 1 << 28;
    private const MOST_FAULTS = 20;
    private const OBJECT = '~\G(\{(?:[^{}"]++|"(?:[^"\\\\]++|\\\\.)*+"|(?1))*+\})~s';

    /** @var list<string> what could not be read, in sentences; filled while iterating */
    public array $faults = [];
    public int $faulty = 0;
    public int $bytes = 0;

    public function __construct(private readonly string $path)
    {
    }

    /**
     * @return \Generator<int, array{mixed, string, int}> decoded (objects as \stdClass), as written, number of its line or place
     *
     * @throws SourceError
     */
    public function getIterator(): \Generator
    {
        $name = basename($this->path);
        $stream = @fopen($this->path, 'r');
        if (false === $stream) {
            throw new SourceError(\sprintf('“%s” could not be opened.', $name), 'Check that it is there and may be read.');
        }
        $head = (string) fread($stream, 1 << 16);
        self::refuse($head, $name);
        $from = str_starts_with($head, "\xEF\xBB\xBF") ? 3 : 0;
        fseek($stream, $from);
        $start = ltrim(substr($head, $from));
        $first = strtok($start, "\n");
        try {
            if ('[' === $start[0]) {
                yield from $this->elements($stream, true);
            } elseif (false !== $first && self::isOneLine($first, \strlen($start))) {
                yield from $this->lines($stream);
            } else {
                yield from $this->elements($stream, false);
            }
        } finally {
            fclose($stream);
        }
    }

    /**
     * @param resource $stream
     *
     * @return \Generator<int, array{mixed, string, int}>
     */
    private function lines(mixed $stream): \Generator
    {
        $number = 0;
        while (false !== ($line = fgets($stream))) {
            ++$number;
            $this->bytes += \strlen($line);
            $value = json_decode($line, false, self::DEPTH);
            if (null === $value) {
                if ('' === trim($line)) {
                    continue;
                }
                if (\JSON_ERROR_NONE !== json_last_error()) {
                    [$value, $line] = $this->mended($line, $number);
                    if (null === $value) {
                        continue;
                    }
                }
            }
            yield [$value, $line, $number];
        }
    }

    /**
     * @param resource $stream
     *
     * @return \Generator<int, array{mixed, string, int}>
     */
    private function elements(mixed $stream, bool $array): \Generator
    {
        $buffer = '';
        $at = $number = 0;
        $closed = !$array;
        while (true) {
            if ($at > self::CHUNK) {
                $buffer = substr($buffer, $at);
                $at = 0;
            }
            $at += strspn($buffer, 0 === $number && $array ? " \t\r\n[" : " \t\r\n,", $at);
            if ($at >= \strlen($buffer)) {
                if (!$this->more($stream, $buffer)) {
                    break;
                }
                continue;
            }
            if (']' === $buffer[$at]) {
                $closed = true;
                ++$at;
                continue;
            }
            $length = $this->length($stream, $buffer, $at);
            ++$number;
            if (0 === $length) {
                ++$this->faulty;
                $this->faults[] = \sprintf(
                    '%s: document %d is not complete; the file breaks off within it, or a bracket is missing.',
                    basename($this->path),
                    $number,
                );

                return;
            }
            $text = substr($buffer, $at, $length);
            $at += $length;
            $value = json_decode($text, false, self::DEPTH);
            if (null === $value && \JSON_ERROR_NONE !== json_last_error()) {
                [$value, $text] = $this->mended($text, $number);
            }
            if (null !== $value) {
                yield [$value, $text, $number];
            }
        }
        if (!$closed) {
            $this->faults[] = \sprintf('%s: the array is not closed; the file was probably cut off after document %d.', basename($this->path), $number);
        }
    }

    /** @param resource $stream */
    private function length(mixed $stream, string &$buffer, int $at): int
    {
        if ('{' !== $buffer[$at]) {
            // A plain value or a list, which is no document; it is handed on, so that it can be counted.
            while (1 !== preg_match(
                '~\G(?:"(?:[^"\\\\]++|\\\\.)*+"|(\[(?:[^\[\]"]++|"(?:[^"\\\\]++|\\\\.)*+"|(?1))*+\])|[^\s,\[\]{}"]++(?=[\s,\]]))~s', $buffer, $m, 0, $at,
            )) {
                if (!$this->more($stream, $buffer)) {
                    return 0;
                }
            }

            return \strlen($m[0]);
        }
        $wanted = 0;
        while (true) {
            if (\strlen($buffer) - $at >= $wanted) {
                $fits = preg_match(self::OBJECT, $buffer, $m, 0, $at);
                if (1 === $fits) {
                    return \strlen($m[0]);
                }
                if (false === $fits) {
                    return $this->counted($stream, $buffer, $at);
                }
                // The next try waits for twice as much, so that one great document is not looked through again and again.
                $wanted = 2 * (\strlen($buffer) - $at);
            }
            if (!$this->more($stream, $buffer)) {
                return 1 === preg_match(self::OBJECT, $buffer, $m, 0, $at) ? \strlen($m[0]) : 0;
            }
            if (\strlen($buffer) - $at > self::MOST_BYTES) {
                throw new SourceError(
                    \sprintf('“%s” holds a document of more than 256 MB.', basename($this->path)),
                    'Is it one document only? Hand in its parts as a collection: one document a line, or an array.',
                );
            }
        }
    }

    /**
     * The same by counting braces, for documents nested so deep that the pattern gives up.
     *
     * @param resource $stream
     */
    private function counted(mixed $stream, string &$buffer, int $at): int
    {
        $depth = 0;
        $place = $at;
        do {
            while ($place < \strlen($buffer)) {
                $place += strcspn($buffer, '"{}', $place);
                $sign = $buffer[$place] ?? '';
                if ('"' === $sign) {
                    if (1 !== preg_match('/\G"(?:[^"\\\\]++|\\\\.)*+"/s', $buffer, $m, 0, $place)) {
                        break;
                    }
                    $place += \strlen($m[0]);
                    continue;
                }
                $depth += ['{' => 1, '}' => -1][$sign] ?? 0;
                $place += '' === $sign ? 0 : 1;
                if (0 === $depth && '' !== $sign) {
                    return $place - $at;
                }
            }
        } while ($this->more($stream, $buffer));

        return 0;
    }

    /** @param resource $stream */
    private function more(mixed $stream, string &$buffer): bool
    {
        $chunk = fread($stream, self::CHUNK);
        if (false === $chunk || '' === $chunk) {
            return false;
        }
        $buffer .= $chunk;
        $this->bytes += \strlen($chunk);

        return true;
    }

    /** @return array{mixed, string} the document after all, once broken letters are replaced; else null, and the fault is noted */
    private function mended(string $text, int $number): array
    {
        $why = json_last_error_msg();
        if (\JSON_ERROR_UTF8 === json_last_error()) {
            $why = 'it is not in UTF-8; the broken letters were replaced';
            $text = mb_convert_encoding($text, 'UTF-8', 'UTF-8');
            $value = json_decode($text, false, self::DEPTH);
        } elseif (\JSON_ERROR_DEPTH === json_last_error()) {
            $why = 'it is nested more than '.self::DEPTH.' deep';
        }
        ++$this->faulty;
        if ($this->faulty <= self::MOST_FAULTS) {
            $this->faults[] = \sprintf(
                '%s, document %d: %s. It begins %s', basename($this->path), $number, $why,
                mb_strimwidth(trim(mb_convert_encoding($text, 'UTF-8', 'UTF-8')), 0, 60, '…'),
            );
        }

        return [$value ?? null, $text];
    }

    /** Whether the first line is a document by itself; one that goes on beyond the part looked at is taken for one. */
    private static function isOneLine(string $first, int $looked): bool
    {
        json_decode($first, false, self::DEPTH);

        return \JSON_ERROR_SYNTAX !== json_last_error() || (\strlen($first) >= $looked && $looked > 60000);
    }

    private static function refuse(string $head, string $name): void
    {
        $what = match (true) {
            '' === trim($head) => 'empty',
            str_starts_with($head, "\x1f\x8b") => 'packed with gzip',
            str_starts_with($head, 'PK') => 'a zip archive',
            str_starts_with($head, "\xFF\xFE"), str_starts_with($head, "\xFE\xFF") => 'in UTF-16, where JSON is UTF-8',
            str_contains($head, "\0") => 'a binary file',
            1 !== preg_match('/^(?:\xEF\xBB\xBF)?\s*[\[{]/', $head) => \sprintf(
                'not JSON: it begins with “%s”',
                mb_strimwidth(trim(mb_convert_encoding($head, 'UTF-8', 'UTF-8')), 0, 30, '…'),
            ),
            default => null,
        };
        if (null !== $what) {
            throw new SourceError(
                \sprintf('“%s” is %s.', $name, $what),
                'Documents are JSON objects: one a line, or the elements of an array. Hand the file in as what it is, or give it the ending that says so.',
            );
        }
    }
}
