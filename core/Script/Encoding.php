<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

/** In what a script is written: UTF-8, UTF-16 or UTF-32 by its first bytes, or what the script itself says of its texts. */
final class Encoding
{
    /** Names that scripts give to encodings → those of mbstring. */
    private const NAMES = [
        'latin1' => 'Windows-1252', 'latin2' => 'ISO-8859-2', 'latin5' => 'ISO-8859-9', 'latin7' => 'ISO-8859-13', 'latin9' => 'ISO-8859-15',
        'cp1250' => 'Windows-1250', 'win1250' => 'Windows-1250',
        'cp1251' => 'Windows-1251', 'win1251' => 'Windows-1251', 'win' => 'Windows-1251', 'win1252' => 'Windows-1252',
        'windows1252' => 'Windows-1252', 'koi8r' => 'KOI8-R', 'koi8' => 'KOI8-R',
        'koi8u' => 'KOI8-U', 'cp866' => 'CP866', 'greek' => 'ISO-8859-7', 'win1253' => 'Windows-1253', 'win1254' => 'Windows-1254', 'sjis' => 'SJIS',
        'cp932' => 'CP932', 'ujis' => 'EUC-JP',
        'eucjp' => 'EUC-JP', 'eucjpms' => 'eucJP-win', 'euckr' => 'EUC-KR', 'gbk' => 'CP936', 'gb2312' => 'EUC-CN', 'gb18030' => 'GB18030',
        'big5' => 'BIG-5', 'cp850' => 'CP850',
        'iso88591' => 'ISO-8859-1', 'iso88592' => 'ISO-8859-2', 'iso885915' => 'ISO-8859-15', 'latin15' => 'ISO-8859-15',
        'windows1250' => 'Windows-1250', 'windows1251' => 'Windows-1251', 'hebrew' => 'ISO-8859-8',
    ];

    private int $converted = 0;
    private string $said = '';

    private function __construct(private readonly string $wide)
    {
    }

    public static function of(string $head): self
    {
        $wide = match (true) {
            str_starts_with($head, "\xFF\xFE\0\0") => 'UTF-32LE',
            str_starts_with($head, "\0\0\xFE\xFF") => 'UTF-32BE',
            str_starts_with($head, "\xFF\xFE") => 'UTF-16LE',
            str_starts_with($head, "\xFE\xFF") => 'UTF-16BE',
            // Every second byte of letters and signs is nothing.
            1 === preg_match('/^(?:[\x09-\x7e]\0){16}/', $head) => 'UTF-16LE',
            1 === preg_match('/^(?:\0[\x09-\x7e]){16}/', $head) => 'UTF-16BE',
            default => '',
        };

        return new self($wide);
    }

    /**
     * The stream from its beginning, in UTF-8 where letters take several bytes each.
     *
     * @param resource $stream
     *
     * @return resource
     */
    public function opened(mixed $stream): mixed
    {
        rewind($stream);
        if ('' === $this->wide) {
            return $stream;
        }
        $unit = str_starts_with($this->wide, 'UTF-32') ? 4 : 2;
        $out = fopen('php://temp/maxmemory:8388608', 'r+') ?: throw new \RuntimeException('No room for the script.');
        $left = '';
        while (!feof($stream)) {
            $chunk = $left.fread($stream, 1 << 18);
            $keep = \strlen($chunk) % $unit;
            // Half a letter waits for its other half.
            $last = substr($chunk, -$keep - 2, 2);
            $high = 'UTF-16LE' === $this->wide ? \ord($last[1] ?? "\0") : \ord($last[0] ?? "\0");
            if (2 === $unit && $high >= 0xD8 && $high <= 0xDB && !feof($stream)) {
                $keep += 2;
            }
            $left = $keep > 0 ? substr($chunk, -$keep) : '';
            fwrite($out, (string) mb_convert_encoding($keep > 0 ? substr($chunk, 0, -$keep) : $chunk, 'UTF-8', $this->wide));
        }
        fclose($stream);
        rewind($out);

        return $out;
    }

    public function utf8(string $text): string
    {
        if (\strlen($text) < 400 && 1 === preg_match('/^[\s(]*SET\s+(?:NAMES|CHARACTER\s+SET|client_encoding\s*(?:=|TO))\s*[\'"]?([\w-]+)/i', $text, $m)) {
            $this->said = self::NAMES[strtolower(str_replace(['-', '_'], '', $m[1]))] ?? $this->said;
        }
        if (mb_check_encoding($text, 'UTF-8')) {
            return $text;
        }
        ++$this->converted;

        return (string) mb_convert_encoding($text, 'UTF-8', '' === $this->said ? 'Windows-1252' : $this->said);
    }

    public function inWords(string $file): ?string
    {
        if ('' !== $this->wide) {
            return \sprintf('%s is written in %s, and was read so.', $file, substr($this->wide, 0, 6));
        }
        if (0 === $this->converted) {
            return null;
        }

        return \sprintf(
            '%s: %d %s not in UTF-8 and %s read as %s%s. Save the script as UTF-8 if letters look wrong.',
            $file,
            $this->converted,
            1 === $this->converted ? 'statement is' : 'statements are',
            1 === $this->converted ? 'was' : 'were',
            '' === $this->said ? 'Windows-1252' : $this->said,
            '' === $this->said ? '' : ', as the script says',
        );
    }
}
