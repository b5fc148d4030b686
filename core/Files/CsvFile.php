<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Survey\SourceError;

/**
 * The rows of a CSV file (RFC 4180, with any of the usual separators), streamed. The first row names the columns, unless
 * it holds numbers: then they are named by their place.
 *
 * @implements \IteratorAggregate<int, list<string>>
 */
final class CsvFile implements \IteratorAggregate
{
    public readonly string $separator;
    /** @var list<string> */
    public readonly array $header;
    public readonly bool $named;
    /** Rows with more or fewer values than there are columns. */
    public int $uneven = 0;
    public int $firstUneven = 0;
    public int $broken = 0;
    public int $bytes = 0;

    /** @throws SourceError */
    public function __construct(public readonly string $path)
    {
        $name = basename($path);
        $stream = @fopen($path, 'r');
        if (false === $stream) {
            throw new SourceError(\sprintf('“%s” could not be opened.', $name), 'Check that it is there and may be read.');
        }
        $head = (string) fread($stream, 1 << 16);
        fclose($stream);
        $what = match (true) {
            '' === trim($head) => 'empty',
            str_starts_with($head, 'PK') => 'a zip archive, perhaps a workbook',
            str_starts_with($head, "\x1f\x8b") => 'packed with gzip',
            str_starts_with($head, "\xFF\xFE"), str_starts_with($head, "\xFE\xFF") => 'in UTF-16; save it as UTF-8',
            str_contains($head, "\0") => 'a binary file',
            1 === preg_match('/^\s*[\[{]["\s{]/', $head) => 'JSON',
            1 === preg_match('/^\s*</', $head) => 'XML or HTML',
            default => null,
        };
        if (null !== $what) {
            throw new SourceError(\sprintf('“%s” is no CSV file but looks %s.', $name, $what), 'Hand it in as what it is, or give it the ending that says so.');
        }
        $this->separator = self::separator($head);
        $first = self::open($path);
        $row = self::row($first, $this->separator);
        fclose($first);
        $this->named = [] !== $row && [] === array_filter($row, static fn (string $value): bool => '' === trim($value) || is_numeric(trim($value)));
        $header = [];
        foreach ($row as $i => $value) {
            $stem = $this->named ? trim($this->text($value)) : 'column '.($i + 1);
            for ($name = $stem, $n = 2; \in_array($name, $header, true); ++$n) {
                $name = $stem.' '.$n;
            }
            $header[] = $name;
        }
        $this->header = $header;
    }

    /** @return \Generator<int, list<string>> each row as wide as the header */
    public function getIterator(): \Generator
    {
        $stream = self::open($this->path);
        $width = \count($this->header);
        $line = 0;
        while ([] !== ($row = self::row($stream, $this->separator))) {
            ++$line;
            if (1 === $line && $this->named) {
                continue;
            }
            if ([''] === $row && $width > 1) {
                continue;
            }
            if (\count($row) !== $width) {
                ++$this->uneven;
                $this->firstUneven = $this->firstUneven ?: $line;
                $row = \array_slice(array_pad($row, $width, ''), 0, $width);
            }
            yield $line => $row;
            if (0 === ($line & 0xFF)) {
                $this->bytes = (int) ftell($stream);
            }
        }
        fclose($stream);
    }

    /** In UTF-8; what is not is read as Windows-1252, and counted. */
    public function text(string $value): string
    {
        if (mb_check_encoding($value, 'UTF-8')) {
            return $value;
        }
        ++$this->broken;

        return mb_convert_encoding($value, 'UTF-8', 'Windows-1252');
    }

    /** @return list<string> what is worth saying about the file as a whole, once it has been read */
    public function notes(): array
    {
        $file = basename($this->path);
        $notes = [];
        if ($this->uneven > 0) {
            $notes[] = \sprintf('%s: %d %s more or fewer values than there are columns, first line %d.', $file, $this->uneven, 1 === $this->uneven ? 'row has' : 'rows have', $this->firstUneven);
        }
        if ($this->broken > 0) {
            $notes[] = \sprintf('%s: %d %s not in UTF-8 and read as Windows-1252.', $file, $this->broken, 1 === $this->broken ? 'value is' : 'values are');
        }
        if (!$this->named) {
            $notes[] = \sprintf('%s: the first row does not look like names, so the columns are named by their place.', $file);
        }

        return $notes;
    }

    private static function separator(string $head): string
    {
        $lines = \array_slice(preg_split('/\r\n|\n|\r/', (string) preg_replace('/"(?:[^"]|"")*"/', '', $head)) ?: [], 0, 50);
        $best = [',', 0.0];
        foreach ([',', ';', "\t", '|'] as $separator) {
            $counts = array_map(static fn (string $line): int => substr_count($line, $separator), array_filter($lines));
            if ([] === $counts || 0 === max($counts)) {
                continue;
            }
            // The right one stands in every line, equally often.
            $usual = array_count_values($counts);
            arsort($usual);
            $score = key($usual) > 0 ? reset($usual) / \count($counts) + min(0.5, key($usual) / 100) : 0.0;
            if ($score > $best[1]) {
                $best = [$separator, $score];
            }
        }

        return $best[0];
    }

    /** @return resource */
    private static function open(string $path): mixed
    {
        $stream = fopen($path, 'r') ?: throw new SourceError(\sprintf('“%s” could not be opened.', basename($path)), 'Check that it is there and may be read.');
        if ("\xEF\xBB\xBF" !== fread($stream, 3)) {
            rewind($stream);
        }

        return $stream;
    }

    /**
     * @param resource $stream
     *
     * @return list<string> empty at the end
     */
    private static function row(mixed $stream, string $separator): array
    {
        $row = fgetcsv($stream, null, $separator, '"', '');

        return false === $row ? [] : array_map(strval(...), $row);
    }
}
