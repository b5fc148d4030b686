<?php

declare(strict_types=1);

/*
 * Fits how much each kind of evidence for a join counts, to the made schemas in bench/Joins and to those of real programs in var/real, which
 * `bin/bench real load` fetches, and writes core/Join/weights.json:
 *
 *   php -d memory_limit=6G bench/fit.php
 */

namespace Fasti\Bench;

use Fasti\Bench\Joins\Training;
use Fasti\Bench\Real\Corpus;

require \dirname(__DIR__).'/vendor/autoload.php';
$training = new Training(new Corpus(\dirname(__DIR__)));
$weights = $training->weights();
foreach ($weights as $which => $of) {
    ksort($of);
    $weights[$which] = $of;
}
file_put_contents(
    \dirname(__DIR__).'/core/Join/weights.json',
    json_encode($weights, \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_PRESERVE_ZERO_FRACTION)."\n",
);
