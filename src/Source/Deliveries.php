<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Enumeration;

/**
 * Files that people hand in. Each delivery has a folder of its own, so that what was handed in before stays. Archives are
 * unpacked, within bounds: a small archive that would fill the disk is refused.
 */
final readonly class Deliveries
{
    private const MOST_BYTES = 8 << 30;
    private const MOST_FILES = 2000;
    private const CHUNK = 1 << 20;
    /** What is unpacked at once: it grows a thousandfold at the most (RFC 1951), so that eight mebibytes come of it. */
    private const PACKED_CHUNK = 8192;
    /** Text packs to a tenth or so; an archive that grows more than this is made to do harm. */
    private const MOST_GROWTH = 250;
    private const GROWTH_COUNTS_FROM = 50 << 20;
    private const READ = ['sql', 'ddl', 'csv', 'tsv', 'json', 'jsonl', 'ndjson'];
    private const PACKED = ['zip', 'gz'];

    public function __construct(private string $filesDir)
    {
    }

    /** @return list<string> endings of what may be handed in: files that are read, packed ones, and databases that are files */
    public static function endings(): array
    {
        return [
            ...self::READ,
            ...self::PACKED,
            ...array_merge(...array_values(array_map(static fn (Dialect $dialect): array => $dialect->endings(), Dialects::all()))),
        ];
    }

    /** @return list<string> for a sentence: one ending of each thing that is read */
    private static function examples(): array
    {
        $databases = array_map(static fn (Dialect $dialect): array => \array_slice($dialect->endings(), 0, 1), array_values(Dialects::all()));

        return array_map(static fn (string $ending): string => '.'.$ending, ['sql', 'csv', 'tsv', 'json', 'jsonl', ...array_merge(...$databases)]);
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
            throw new SourceError(
                'The files could not be kept.',
                'Whoever looks after Fasti should check the folder var/files: is there room, and may it be written?',
            );
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
            throw new SourceError(
                \sprintf('There is no “%s” among the files that Fasti may read.', $path),
                'Hand the file in, or have it put into the folder var/files and name it by its path from there.',
            );
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
        if ('' === $safe || !\in_array($ending, self::endings(), true)) {
            throw new SourceError(
                \sprintf('The ending of “%s” does not say what it is.', $name),
                'Fasti reads '.Enumeration::of(self::examples()).', and these packed as .zip or .gz.',
            );
        }
        if ('zip' === $ending) {
            $this->unzip($folder, $safe, $path);
        } elseif ('gz' === $ending) {
            $this->gunzip($folder, $safe, $path);
        } else {
            $from = fopen($path, 'r') ?: throw new SourceError(\sprintf('“%s” did not arrive.', $name), 'Hand it in again.');
            $this->stream($from, self::free($folder, $safe), (int) filesize($path), 0, $name, (int) filesize($path));
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
            if (str_ends_with($inner, '/') || '' === $safe || str_contains($inner, '__MACOSX') || !\in_array(
                strtolower(pathinfo($safe, \PATHINFO_EXTENSION)),
                self::READ,
                true,
            )) {
                continue;
            }
            $from = $zip->getStream($inner);
            if (false === $from) {
                throw new SourceError(
                    \sprintf('“%s” within “%s” cannot be unpacked.', $inner, $name),
                    'Archives with a password are not read; pack it without.',
                );
            }
            $written += $this->stream($from, self::free($folder, $safe), $packed, $written, $name, (int) ($zip->statIndex($i)['size'] ?? -1));
            ++$taken;
        }
        $zip->close();
        if (0 === $taken) {
            throw new SourceError(\sprintf('“%s” holds no file that Fasti reads.', $name), 'It reads .sql, .csv, .tsv, .json and .jsonl.');
        }
    }

    /** Member by member (RFC 1952), each to its own end mark: a file that ends early would otherwise look whole. */
    private function gunzip(string $folder, string $name, string $path): void
    {
        $from = "\x1f\x8b" === file_get_contents($path, false, null, 0, 2) ? fopen($path, 'r') : false;
        if (false === $from) {
            throw new SourceError(\sprintf('“%s” is not packed with gzip.', $name), 'Hand it in as what it is.');
        }
        $out = $this->opened(self::free($folder, substr($name, 0, -3)), $name);
        $packed = max(1, (int) filesize($path));
        $written = 0;
        $inflate = null;
        $rest = '';
        while ('' !== $rest || !feof($from)) {
            $chunk = '' !== $rest ? $rest : (string) fread($from, self::PACKED_CHUNK);
            $rest = '';
            if ('' === $chunk) {
                continue;
            }
            if (null === $inflate) {
                if (!str_starts_with($chunk, "\x1f") && '' === trim($chunk, "\0")) {
                    // Padding after the last member, as tapes had it.
                    continue;
                }
                $inflate = inflate_init(\ZLIB_ENCODING_GZIP) ?: throw new \LogicException('No inflate.');
                $taken = 0;
            }
            $plain = @inflate_add($inflate, $chunk);
            if (false === $plain) {
                throw self::damaged($name);
            }
            $written += self::write($out, $plain, $name);
            $this->bounded($written, $packed, $name);
            if (\ZLIB_STREAM_END === inflate_get_status($inflate)) {
                $used = inflate_get_read_len($inflate) - ($taken ?? 0);
                $rest = substr($chunk, $used);
                $inflate = null;
            } else {
                $taken = inflate_get_read_len($inflate);
            }
        }
        fclose($from);
        self::close($out, $name);
        if (null !== $inflate) {
            throw new SourceError(\sprintf('“%s” ends too early: it did not arrive whole.', $name), 'Hand it in again, or pack it anew.');
        }
    }

    /**
     * @param resource $from
     * @param int      $size of the whole, in bytes; −1 where it is not known
     */
    private function stream(mixed $from, string $to, int $packed, int $before, string $name, int $size): int
    {
        $out = $this->opened($to, $name);
        $written = 0;
        while (!feof($from)) {
            $chunk = fread($from, self::CHUNK);
            if (false === $chunk) {
                throw self::damaged($name);
            }
            $written += self::write($out, $chunk, $name);
            $this->bounded($before + $written, $packed, $name);
        }
        fclose($from);
        self::close($out, $name);
        if ($size >= 0 && $written !== $size) {
            throw new SourceError(
                \sprintf('“%s” did not arrive whole: %s of %s bytes came.', $name, Amount::count($written), Amount::count($size)),
                'Hand it in again.',
            );
        }

        return $written;
    }

    /** @throws SourceError */
    private function bounded(int $written, int $packed, string $name): void
    {
        if ($written > self::MOST_BYTES || ($written > self::GROWTH_COUNTS_FROM && $written > self::MOST_GROWTH * max(1, $packed))) {
            throw new SourceError(
                \sprintf('“%s” grows beyond all measure when it is unpacked, so it was refused.', $name),
                'If it is in good faith, unpack it and hand in the files themselves.',
            );
        }
    }

    /** @return resource */
    private function opened(string $to, string $name)
    {
        return @fopen($to, 'w') ?: throw self::full($name);
    }

    /** @param resource $out */
    private static function write($out, string $chunk, string $name): int
    {
        if ('' !== $chunk && \strlen($chunk) !== @fwrite($out, $chunk)) {
            throw self::full($name);
        }

        return \strlen($chunk);
    }

    /** @param resource $out */
    private static function close($out, string $name): void
    {
        // What is still on its way to the disk may not fit either.
        if (!@fflush($out) || !fclose($out)) {
            throw self::full($name);
        }
    }

    private static function full(string $name): SourceError
    {
        return new SourceError(
            \sprintf('“%s” could not be kept whole.', $name),
            'The disk may be full, or the folder var/files closed to Fasti: tell whoever looks after it.',
        );
    }

    private static function damaged(string $name): SourceError
    {
        return new SourceError(\sprintf('“%s” is damaged: it cannot be unpacked to the end.', $name), 'Pack the files anew, or hand them in as they are.');
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
