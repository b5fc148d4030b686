<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\House;

/** The files of the house, by their paths from its root. */
final class Tree
{
    /** @var array<string, list<string>> */
    private static array $known = [];

    /** @return list<string> */
    public static function files(string $top, string $endings = 'php'): array
    {
        return self::$known["$top $endings"] ??= self::look($top, $endings);
    }

    public static function read(string $file): string
    {
        return (string) file_get_contents(self::root().$file);
    }

    /** Without what is said in comments; each line stands where it stood. */
    public static function bare(string $file): string
    {
        $text = self::read($file);
        $lines = static fn (string $comment): string => str_repeat("\n", substr_count($comment, "\n"));
        if (!str_ends_with($file, '.php')) {
            $comment = str_ends_with($file, '.twig') ? '/\{#.*?#\}/s' : '~/\*.*?\*/|^\s*//[^\n]*~ms';

            return (string) preg_replace_callback($comment, static fn (array $m): string => $lines($m[0]), $text);
        }
        $bare = '';
        foreach (\PhpToken::tokenize($text) as $token) {
            $bare .= $token->is([\T_COMMENT, \T_DOC_COMMENT]) ? $lines($token->text) : $token->text;
        }

        return $bare;
    }

    public static function facts(string $file): Facts
    {
        return Facts::of(self::root().$file);
    }

    public static function root(): string
    {
        return \dirname(__DIR__, 3).'/';
    }

    /** @return list<string> */
    private static function look(string $top, string $endings): array
    {
        $files = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(self::root().$top, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo && 1 === preg_match('/^(?:'.$endings.')$/', $file->getExtension())) {
                $files[] = substr($file->getPathname(), \strlen(self::root()));
            }
        }
        sort($files);

        return $files;
    }
}
