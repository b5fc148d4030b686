<?php

declare(strict_types=1);

use Symfony\Component\Dotenv\Dotenv;
use Symfony\Component\Filesystem\Filesystem;

require dirname(__DIR__).'/config/local.php';
require dirname(__DIR__).'/vendor/autoload.php';
(new Dotenv())->bootEnv(dirname(__DIR__).'/.env', 'test');

// A kernel that looks before each request whether what it was compiled from has changed is ten times slower: it is looked at once, here.
if ('1' !== getenv('FASTI_WARM')) {
    (static function (string $root): void {
        $cache = $root.'/var/cache/test';
        $of = array_map(
            static fn (string $part): string => escapeshellarg("$root/$part"),
            ['src', 'core', 'config', 'templates', 'vendor/composer/installed.php'],
        );
        $newer = 'find '.implode(' ', $of).' -newer '.escapeshellarg($cache.'/Fasti_KernelTestContainer.php').' -type f -print -quit';
        if (is_file($cache.'/Fasti_KernelTestContainer.php') && '' !== trim((string) shell_exec($newer))) {
            // Of the kernel that looks, static analysis reads what it wrote.
            (new Filesystem())->remove(preg_grep('/KernelTestDebug/', glob($cache.'/*') ?: [], \PREG_GREP_INVERT) ?: []);
        }
    })(dirname(__DIR__));
}

// Asked by bin/bench mutants: which files of the house a test loads.
if (is_string($told = getenv('FASTI_LOADED'))) {
    register_shutdown_function(static function () use ($told): void {
        $root = dirname(__DIR__).'/';
        file_put_contents($told, implode("\n", array_map(static fn (string $file): string => str_replace($root, '', $file), get_included_files())));
    });
}
