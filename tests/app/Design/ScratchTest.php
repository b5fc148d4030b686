<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Working;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Scratch\ScratchServers;
use Fasti\Design\Trying;
use Symfony\Bundle\FrameworkBundle\Test\KernelTestCase;

final class ScratchTest extends KernelTestCase
{
    public function testEnginesWithAScratchServerAreListedAsEnginesAre(): void
    {
        $servers = self::getContainer()->get(ScratchServers::class);

        self::assertSame(['mariadb' => 'MariaDB', 'postgresql' => 'PostgreSQL', 'sqlite' => 'SQLite'], $servers->labels());
        self::assertNull($servers->of('oracle'));
    }

    public function testWhereAnEngineHasNoneThoseThatHaveOneAreNamed(): void
    {
        $design = Outline::read("Design \"Loans\"\n\nLoan\n  note, text up to 9\n")->design;
        $trying = self::getContainer()->get(Trying::class);

        try {
            $trying->run(new Physical(Working::of($design), Dialects::of('oracle'), []), new SilentProgress());
            self::fail('It ran.');
        } catch (SourceError $e) {
            self::assertSame('There is no scratch server for Oracle Database here.', $e->getMessage());
            self::assertStringContainsString('run it on MariaDB, PostgreSQL or SQLite to try', $e->inWords());
        }
    }
}
