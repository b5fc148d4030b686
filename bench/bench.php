<?php

declare(strict_types=1);

/*
 * Run by bin/bench. Sizes and limits are those of bench/README.md.
 */

namespace Fasti\Bench;

require \dirname(__DIR__).'/config/local.php';
require \dirname(__DIR__).'/vendor/autoload.php';
(new \Symfony\Component\Dotenv\Dotenv())->bootEnv(\dirname(__DIR__).'/.env');

/** @var list<string> $argv */
if ('mutants' === ($argv[1] ?? '')) {
    exit(Mutants\Mutants::command(\dirname(__DIR__), \array_slice($argv, 2)));
}
if ('real' === ($argv[1] ?? '')) {
    exit(Real\RealBench::command(\dirname(__DIR__), \array_slice($argv, 2)));
}
$parts = \array_slice($argv, 1);
if ('job' === ($parts[0] ?? '')) {
    // One job in a process of its own, so that its peak memory is its own too.
    (new Bench())->job($parts[1] ?? '');
    exit;
}
exit((new Bench())->run([] === $parts ? ['reading', 'storing', 'serving', 'publishing', 'drawing', 'engines', 'script', 'documents', 'profile',
    'comparing', 'queries', 'joins', 'boards', 'texts', 'checks', 'models', 'designs'] : $parts));
