<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Survey\SourceError;

/**
 * Files that people hand in. Each delivery has a folder of its own, so that what was handed in before stays. Archives are
 * unpacked, within bounds: a small archive that would fill the disk is refused.
 */
final readonly class Deliveries
{
    private const MOST_BYTES = 8 << 30;
    private const MOST_FILES = 2000;
    /** Text packs to a tenth or so; an archive that grows more than this is made to do harm. */
    private const MOST_GROWTH = 250;
    private const GROWTH_COUNTS_FROM = 50 << 20;
    private const ENDINGS = ['sql', 'ddl', 'csv', 'tsv', 'json', 'jsonl', 'ndjson', 'zip', 'gz', 'sqlite', 'sqlite3', 'db', 'db3'];

    public function __construct(private string $filesDir)
    {
    }

    /**
     * Keeps a delivery, unpacked.
     *
     * @param array<string, string> $files name as handed in → path of the upload
     *
     * @return string the folder
     *
     * @throws SourceError
     */
    public function keep(array $files): string
    {
        $folder = $this->filesDir.'/handed/'.gmdate('Ymd-His').'-'.bin2hex(random_bytes(4));
        if (!mkdir($folder, 0700, true)) {
            throw new SourceError('The files could not be kept.', 'Whoever looks after Fasti should check the folder var/files: is there room, and may it be written?');
        }
        try {
            foreach ($files as $name => $path) {
                $this->put($folder, (string) $name, $path);
            }
        } catch (SourceError $e) {
            self::remove($folder);
            throw $e;
        }

        return $folder;
    }

    /**
     * A path that somebody typed, where it may lead: only below the folder of files, unless it comes from the command line.
     *
     * @throws SourceError
     */
    public function allowed(string $path): string
    {
        $full = realpath(str_starts_with($path, '/') ? $path : $this->filesDir.'/'.$path);
        $root = realpath($this->filesDir);
        if (false === $full || false === $root || ($full !== $root && !str_starts_with($full, $root.'/'))) {
            throw new SourceError(\sprintf('There is no “%s” among the files that Fasti may read.', $path), 'Hand the file in, or have it put into the folder var/files and name it by its path from there.');
        }

        return $full;
    }

    /**
     * The target of a path on the command line: an archive is unpacked beside the temporary files first.
     *
     * @throws SourceError
     */
    public function unpacked(string $path): string
    {
        return is_file($path) && 1 === preg_match('/\.(?:zip|gz)$/i', $path) ? $this->keep([basename($path) => $path]) : $path;
    }

    private function put(string $folder, string $name, string $path): void
    {
        $safe = trim((string) preg_replace('/[^\p{L}\p{N}._ ()-]+/u', '_', basename(str_replace('\\', '/', $name))), '. ');
        $ending = strtolower(pathinfo($safe, \PATHINFO_EXTENSION));
        if ('' === $safe || !\in_array($ending, self::ENDINGS, true)) {
            throw new SourceError(\sprintf('The ending of “%s” does not say what it is.', $name), 'Fasti reads .sql, .csv, .tsv, .json, .jsonl and .sqlite, and these packed as .zip or .gz.');
        }
        if ('zip' === $ending) {
            $this->unzip($folder, $safe, $path);
        } elseif ('gz' === $ending) {
            $this->gunzip($folder, $safe, $path);
        } elseif (!copy($path, self::free($folder, $safe))) {
            throw new SourceError(\sprintf('“%s” could not be kept.', $name), 'The disk may be full.');
        }
    }

    private function unzip(string $folder, string $name, string $path): void
    {
        $zip = new \ZipArchive();
        if (true !== $zip->open($path, \ZipArchive::RDONLY)) {
            throw new SourceError(\sprintf('“%s” is not a zip archive, or a damaged one.', $name), 'Pack the files anew, or hand them in as they are.');
        }
        $packed = max(1, (int) filesize($path));
        if ($zip->numFiles > self::MOST_FILES) {
            throw new SourceError(\sprintf('“%s” holds %d files; %d are the most.', $name, $zip->numFiles, self::MOST_FILES), 'Hand them in in parts.');
        }
        $written = $taken = 0;
        for ($i = 0; $i < $zip->numFiles; ++$i) {
            $inner = (string) $zip->getNameIndex($i);
            $safe = trim((string) preg_replace('/[^\p{L}\p{N}._ ()-]+/u', '_', basename(str_replace('\\', '/', $inner))), '. ');
            if (str_ends_with($inner, '/') || '' === $safe || str_contains($inner, '__MACOSX') || !\in_array(strtolower(pathinfo($safe, \PATHINFO_EXTENSION)), \array_slice(self::ENDINGS, 0, 7), true)) {
                continue;
            }
            $from = $zip->getStream($inner);
            if (false === $from) {
                throw new SourceError(\sprintf('“%s” within “%s” cannot be unpacked.', $inner, $name), 'Archives with a password are not read; pack it without.');
            }
            $written += $this->stream($from, self::free($folder, $safe), $packed, $written, $name);
            ++$taken;
        }
        $zip->close();
        if (0 === $taken) {
            throw new SourceError(\sprintf('“%s” holds no file that Fasti reads.', $name), 'It reads .sql, .csv, .tsv, .json and .jsonl.');
        }
    }

    private function gunzip(string $folder, string $name, string $path): void
    {
        $from = "\x1f\x8b" === file_get_contents($path, false, null, 0, 2) ? fopen('compress.zlib://'.$path, 'r') : false;
        if (false === $from) {
            throw new SourceError(\sprintf('“%s” is not packed with gzip.', $name), 'Hand it in as what it is.');
        }
        $this->stream($from, self::free($folder, substr($name, 0, -3)), max(1, (int) filesize($path)), 0, $name);
    }

    /** @param resource $from */
    private function stream(mixed $from, string $to, int $packed, int $before, string $name): int
    {
        $out = fopen($to, 'w');
        $written = 0;
        while (false !== $out && !feof($from)) {
            $chunk = fread($from, 1 << 20);
            if (false === $chunk) {
                throw new SourceError(\sprintf('“%s” is damaged: it cannot be unpacked to the end.', $name), 'Pack the files anew, or hand them in as they are.');
            }
            $written += (int) fwrite($out, $chunk);
            $all = $before + $written;
            if ($all > self::MOST_BYTES || ($all > self::GROWTH_COUNTS_FROM && $all > self::MOST_GROWTH * $packed)) {
                fclose($out);
                throw new SourceError(\sprintf('“%s” grows beyond all measure when it is unpacked, so it was refused.', $name), 'If it is in good faith, unpack it and hand in the files themselves.');
            }
        }
        fclose($from);
        if (false !== $out) {
            fclose($out);
        }

        return $written;
    }

    private static function free(string $folder, string $name): string
    {
        for ($to = $folder.'/'.$name, $i = 2; file_exists($to); ++$i) {
            $to = $folder.'/'.pathinfo($name, \PATHINFO_FILENAME).'-'.$i.'.'.pathinfo($name, \PATHINFO_EXTENSION);
        }

        return $to;
    }

    /** Takes a delivery away again that was only looked at. */
    public function discard(string $folder): void
    {
        if (str_starts_with($folder, $this->filesDir.'/handed/')) {
            self::remove($folder);
        }
    }

    private static function remove(string $folder): void
    {
        foreach (glob($folder.'/*') ?: [] as $file) {
            unlink($file);
        }
        rmdir($folder);
    }
}
