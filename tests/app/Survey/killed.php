<?php

declare(strict_types=1);

/* A worker that is killed in the middle of storing a survey. Run by KilledTest in a process of its own, whose writes are real. */

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Kernel;
use Fasti\Register\ApplyCatalog;
use Fasti\Source\Source;
use Fasti\Tests\Core\Made;

require dirname(__DIR__, 2).'/bootstrap.php';
$kernel = new Kernel('test', true);
$kernel->boot();
$container = $kernel->getContainer();
$entities = $container->get('doctrine.orm.entity_manager');
$apply = $container->get('bench.'.ApplyCatalog::class);
assert($entities instanceof EntityManagerInterface && $apply instanceof ApplyCatalog);
$source = new Source();
$source->name = $argv[1] ?? 'killed';
$entities->persist($source);
$entities->flush();

$tables = [];
for ($i = 0; $i < 900; ++$i) {
    $tables[] = Made::table('killed_'.$i, ['a' => 'int', 'b' => 'int']);
}
$kills = new class implements Progress {
    public function at(string $what, int $done, int $total): void
    {
        if ($done > 100) {
            fwrite(\STDOUT, "storing $done of $total\n");
            posix_kill((int) getmypid(), \SIGKILL);
        }
    }
};
$entities->wrapInTransaction(static fn (): array => $apply->apply($source->id(), Made::catalog(...$tables), new Choice(), $kills));
fwrite(\STDOUT, "finished\n");
