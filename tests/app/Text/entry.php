<?php

declare(strict_types=1);

/* Makes an entry with so many fields for WritersTest: SOURCE FIELDS. */

use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Kernel;
use Fasti\Register\ApplyCatalog;
use Fasti\Tests\Core\Made;

require dirname(__DIR__, 2).'/bootstrap.php';
[, $source, $fields] = $argv + ['', '0', '0'];
$kernel = new Kernel('test', true);
$kernel->boot();
$apply = $kernel->getContainer()->get('bench.'.ApplyCatalog::class);
assert($apply instanceof ApplyCatalog);
$columns = array_fill_keys(array_map(static fn (int $i): string => 'written_at_once_'.$i, range(1, (int) $fields - 1)), 'int');
$apply->apply((int) $source, Made::catalog(Made::table('written_at_once', $columns)), new Choice(), new SilentProgress());
