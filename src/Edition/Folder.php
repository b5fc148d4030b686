<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Work\JobFailed;
use Symfony\Component\Filesystem\Filesystem;
use Twig\Environment;

/** The folder of an edition while it is being written. */
final class Folder
{
    /** @var array<string, resource> */
    private array $open = [];
    public int $pages = 0;
    /** @var array<string, string> path → title, of lists that every page leads to */
    private array $lists = [];

    public function __construct(private readonly string $path, public readonly About $about, private readonly Environment $twig)
    {
        (new Filesystem())->mkdir($path);
    }

    /** The way from a page to the root: "../" for each folder that it lies in. */
    public static function root(string $path): string
    {
        return str_repeat('../', substr_count($path, '/'));
    }

    /** A list that every page leads to at its head. Before the first page is written; the part that says so writes it. */
    public function announce(string $title, string $path): void
    {
        $this->lists[$path] = $title;
    }

    /** @param array<string, mixed> $data */
    public function page(string $path, string $template, array $data): void
    {
        ++$this->pages;
        $this->write($path, $this->twig->render($template, $data + $this->common($path)));
    }

    /** @return array<string, mixed> what every page knows */
    private function common(string $path): array
    {
        return ['about' => $this->about, 'root' => self::root($path), 'lists' => $this->lists];
    }

    /**
     * A page that is written as it is made, so that a list of any length takes no memory.
     *
     * @param array<string, mixed> $data
     */
    public function streamed(string $path, string $template, array $data): void
    {
        ++$this->pages;
        $out = $this->handle($path);
        foreach ($this->twig->load($template)->stream($data + $this->common($path)) as $piece) {
            self::put($out, (string) $piece, $path);
        }
        $this->close($path);
    }

    public function write(string $path, string $content): void
    {
        self::put($this->handle($path), $content, $path);
        $this->close($path);
    }

    /** Additivity to a file that others add to as well, until it is closed. */
    public function append(string $path, string $line): void
    {
        self::put($this->handle($path), $line, $path);
    }

    /**
     * Closes a file that was added to, takes it out of the folder and gives its lines.
     *
     * @return list<string>
     */
    public function taken(string $path): array
    {
        $this->close($path);
        $lines = file($this->path.'/'.$path, \FILE_IGNORE_NEW_LINES);
        unlink($this->path.'/'.$path);

        return false === $lines ? [] : $lines;
    }

    public function isOpen(string $path): bool
    {
        return isset($this->open[$path]);
    }

    public function copy(string $from, string $to): void
    {
        $files = new Filesystem();
        if (is_dir($from)) {
            $files->mirror($from, $this->path.'/'.$to);
        } else {
            $files->copy($from, $this->path.'/'.$to);
        }
    }

    public function closeAll(): void
    {
        foreach (array_keys($this->open) as $path) {
            $this->close((string) $path);
        }
    }

    private function close(string $path): void
    {
        if (isset($this->open[$path])) {
            fclose($this->open[$path]) ?: throw self::full($path);
            unset($this->open[$path]);
        }
    }

    /** @return resource */
    private function handle(string $path)
    {
        if (!isset($this->open[$path])) {
            $file = $this->path.'/'.$path;
            if (!is_dir(\dirname($file))) {
                mkdir(\dirname($file), 0o755, true);
            }
            $this->open[$path] = fopen($file, 'w') ?: throw self::full($path);
        }

        return $this->open[$path];
    }

    /** @param resource $out */
    private static function put($out, string $content, string $path): void
    {
        if (\strlen($content) !== fwrite($out, $content)) {
            throw self::full($path);
        }
    }

    private static function full(string $path): JobFailed
    {
        return new JobFailed(\sprintf('“%s” cannot be written. Is the disk full?', $path));
    }
}
