<?php

declare(strict_types=1);

/* One job of the bench in a process of its own, so that its peak memory is its own too. */

namespace Fasti\Bench;

require \dirname(__DIR__).'/config/local.php';
require \dirname(__DIR__).'/vendor/autoload.php';
(new \Symfony\Component\Dotenv\Dotenv())->bootEnv(\dirname(__DIR__).'/.env');
/** @var list<string> $argv */
(new Bench())->job($argv[1] ?? '');
