<?php

declare(strict_types=1);

/* Adds a measure to a model, for AddersTest: MODEL NAME. */

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Kernel;
use Fasti\Model\Editing;
use Fasti\Model\KeptModel;

require dirname(__DIR__, 2).'/bootstrap.php';
[, $model, $name] = $argv + ['', '0', ''];
$kernel = new Kernel('test', true);
$kernel->boot();
$editing = $kernel->getContainer()->get('bench.'.Editing::class);
$orm = $kernel->getContainer()->get('bench.'.EntityManagerInterface::class);
assert($editing instanceof Editing && $orm instanceof EntityManagerInterface);
$account = $orm->getRepository(Account::class)->findOneBy(['email' => 'adder@example.org']);
$kept = $orm->find(KeptModel::class, (int) $model);
assert($account instanceof Account && $kept instanceof KeptModel);
// All wait for the same moment, so that each has read the model as it stood before any of them.
usleep((int) max(0, 1e6 * ((float) getenv('FASTI_AT') - microtime(true))));
$editing->change($account, $kept, static fn (Model $now): Model => Edits::measure($now, '', new Measure($name, new Count(), 'visit')));
echo 'good';
