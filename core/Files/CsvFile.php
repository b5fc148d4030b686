<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Survey\SourceError;

/**
 * The rows of a CSV file (RFC 4180, with any of the usual separators and line ends), streamed. The first row names the
 * columns where it looks like names (see CsvHeader); otherwise they are named by their place.
 *
 * @implements \IteratorAggregate<int, list<string>>
 */
final class CsvFile implements \IteratorAggregate
{
    public readonly string $separator;
    /** @var list<string> */
    public readonly array $header;
    public readonly bool $named;
    /** What speaks against names in the first row. */
    private readonly string $why;
    /** @var list<string> what was done to names that are missing or stand twice */
    private readonly array $namings;
    /** The lines end with a carriage return alone. */
    private readonly bool $returns;
    /** The first line says what separates the values. */
    private readonly bool $said;
    private bool $unclosed = false;
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
        $plain = (string) preg_replace('/"(?:[^"]|"")*"/', '', $head);
        $this->returns = !str_contains($plain, "\n") && str_contains($plain, "\r");
        // Programs of offices say in a first line what separates the values.
        $this->said = 1 === preg_match('/^(?:\xEF\xBB\xBF)?"?sep=(.|\\\\t)"?\s*(?:\r|\n|$)/i', $head, $m);
        $this->separator = $this->said && isset($m[1]) ? strtr($m[1], ['\t' => "\t"]) : self::separator($head);
        $first = $this->open();
        $row = self::row($first, $this->separator);
        $below = [];
        while (\count($below) < CsvHeader::LOOKED && !feof($first) && [] !== ($next = self::row($first, $this->separator))) {
            $below[] = array_map(self::inUtf8(...), $next);
        }
        fclose($first);
        $header = CsvHeader::of(array_map($this->text(...), $row), $below);
        $this->header = $header->names;
        $this->named = $header->named;
        $this->why = $header->why;
        $this->namings = $header->notes;
        if ([] === $this->header) {
            throw new SourceError(\sprintf('“%s” has no rows.', $name), 'Hand in a file with a row of names and the rows below it.');
        }
    }

    /** @return \Generator<int, list<string>> each row as wide as the header */
    public function getIterator(): \Generator
    {
        $stream = $this->open();
        $width = \count($this->header);
        $line = $this->said ? 1 : 0;
        $head = 1 + $line;
        $last = [];
        while ([] !== ($row = self::row($stream, $this->separator))) {
            ++$line;
            if ($head === $line && $this->named) {
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
            $last = $row;
            yield $line => $row;
            if (0 === ($line & 0xFF)) {
                $this->bytes = (int) ftell($stream);
            }
        }
        fclose($stream);
        $this->unclosed = [] !== array_filter($last, static fn (string $value): bool => str_contains($value, "\n")) && self::isUnclosed($this->path);
    }

    /** In UTF-8; what is not is read as Windows-1252, and counted. */
    public function text(string $value): string
    {
        if (mb_check_encoding($value, 'UTF-8')) {
            return $value;
        }
        ++$this->broken;

        return self::inUtf8($value);
    }

    private static function inUtf8(string $value): string
    {
        return mb_check_encoding($value, 'UTF-8') ? $value : mb_convert_encoding($value, 'UTF-8', 'Windows-1252');
    }

    /** Whether a quotation mark is open at the end: there is an odd number of them. */
    private static function isUnclosed(string $path): bool
    {
        $marks = 0;
        $stream = fopen($path, 'r');
        while (false !== $stream && !feof($stream)) {
            $marks += substr_count((string) fread($stream, 1 << 20), '"');
        }

        return 1 === $marks % 2;
    }

    /** @return list<string> what is worth saying about the file as a whole, once it has been read */
    public function notes(): array
    {
        $file = basename($this->path);
        $notes = [];
        if ($this->uneven > 0) {
            $notes[] = \sprintf(
                '%s: %d %s more or fewer values than there are columns, first line %d.', $file, $this->uneven, 1 === $this->uneven ? 'row has' : 'rows have',
                $this->firstUneven,
            );
        }
        if ($this->broken > 0) {
            $notes[] = \sprintf('%s: %d %s not in UTF-8 and read as Windows-1252.', $file, $this->broken, 1 === $this->broken ? 'value is' : 'values are');
        }
        if (!$this->named) {
            $notes[] = \sprintf(
                '%s: the first row does not look like names, for %s; so it counts as data, and the columns are named by their place.',
                $file,
                $this->why,
            );
        }
        foreach ($this->namings as $naming) {
            $notes[] = "$file: $naming.";
        }
        if ($this->unclosed) {
            $notes[] = \sprintf('%s: a quotation mark is not closed, so that the last row goes on to the end of the file. Close it, and survey again.', $file);
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
    private function open(): mixed
    {
        $name = basename($this->path);
        $stream = fopen($this->path, 'r') ?: throw new SourceError(\sprintf('“%s” could not be opened.', $name), 'Check that it is there and may be read.');
        if ("\xEF\xBB\xBF" !== fread($stream, 3)) {
            rewind($stream);
        }
        if ($this->returns) {
            LineEnds::mend($stream);
        }
        if ($this->said) {
            fgets($stream);
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
