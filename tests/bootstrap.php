<?php

declare(strict_types=1);

use Symfony\Component\Dotenv\Dotenv;

require dirname(__DIR__).'/config/local.php';
require dirname(__DIR__).'/vendor/autoload.php';
(new Dotenv())->bootEnv(dirname(__DIR__).'/.env', 'test');

// Asked by bin/bench mutants: which files of the house a test loads.
if (is_string($told = getenv('FASTI_LOADED'))) {
    register_shutdown_function(static function () use ($told): void {
        $root = dirname(__DIR__).'/';
        file_put_contents($told, implode("\n", array_map(static fn (string $file): string => str_replace($root, '', $file), get_included_files())));
    });
}
