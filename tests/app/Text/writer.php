<?php

declare(strict_types=1);

/* One of many people who write at once. Run by WritersTest in a process of its own, whose writes are real: NUMBER ENTRY. */

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Kernel;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\Texts;

require dirname(__DIR__, 2).'/bootstrap.php';
[, $number, $entry] = $argv + ['', '0', '0'];
$kernel = new Kernel('test', true);
$kernel->boot();
$container = $kernel->getContainer();
$entities = $container->get('doctrine.orm.entity_manager');
$texts = $container->get('bench.'.Texts::class);
assert($entities instanceof EntityManagerInterface && $texts instanceof Texts);
$account = $entities->getRepository(Account::class)->findOneBy(['email' => 'writer@example.org']) ?? exit('no account');
$ids = $entities->getConnection()->fetchFirstColumn('SELECT id FROM field WHERE entry_id = ? ORDER BY position', [$entry]);
$field = $ids[(int) $number] ?? exit('no field');
assert(is_numeric($field));
$now = '';
for ($i = 0; $i < 6; ++$i) {
    $text = 0 === $i % 2 ? "Text $i of $number" : '';
    $saved = $texts->save($account, FieldTopic::NAME, (int) $field, 'meaning', $now, $text, "sitting $i");
    if (!$saved->saved) {
        exit('not saved');
    }
    $now = $text;
}
$texts->save($account, FieldTopic::NAME, (int) $field, 'meaning', $now, 'The last of '.$number, 'last');
$texts->save($account, EntryTopic::NAME, (int) $entry, 'grain', 'nothing that stands there', 'x', 'last');
echo 'good';
