<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Lineage;

use Fasti\Tests\App\AppTestCase;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;

final class LineageCommandTest extends AppTestCase
{
    private string $script = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->script = sys_get_temp_dir().'/fasti-'.bin2hex(random_bytes(4)).'.sql';
        file_put_contents($this->script, <<<'SQL'
            CREATE TABLE public.reading (station_id integer NOT NULL, taken date NOT NULL, value numeric(6,2), PRIMARY KEY (station_id, taken));
            CREATE VIEW public.months AS SELECT date_trunc('month', taken) AS month, max(value) AS top FROM public.days WHERE value > 0 GROUP BY 1;
            CREATE VIEW public.days AS SELECT taken, value FROM public.reading;
            COMMENT ON VIEW public.days IS 'of PostgreSQL';
            SQL);
    }

    protected function tearDown(): void
    {
        unlink($this->script);
        parent::tearDown();
    }

    public function testAllFieldsOfAllViewsAreSaidAsJson(): void
    {
        $tester = $this->command('fasti:lineage', ['target' => $this->script, '--format' => 'json']);
        $tester->assertCommandIsSuccessful();
        $all = json_decode($tester->getDisplay(), true, 512, \JSON_THROW_ON_ERROR);

        self::assertIsArray($all);
        self::assertIsArray($all['fields']);
        self::assertIsArray($all['references']);
        self::assertSame(['fields', 'references', 'unknown'], array_keys($all));
        self::assertContains([
            'of' => ['schema' => 'public', 'table' => 'months', 'column' => 'top'], 'from' => [
                ['schema' => 'public', 'table' => 'days', 'column' => 'value'],
            ], 'expression' => 'max(value)',
        ], $all['fields']);
        self::assertContains(
            ['of' => ['schema' => 'public', 'table' => 'days'], 'to' => ['schema' => 'public', 'table' => 'reading', 'column' => 'taken']],
            $all['references'],
        );
        self::assertSame([], $all['unknown']);
    }

    public function testAFieldIsFollowedDownAndUp(): void
    {
        $down = $this->command('fasti:lineage', ['target' => $this->script, 'field' => 'months.top']);
        self::assertSame(
            "public.days.value  = value\n    from public.reading.value\npublic.months.top  = max(value)\n    from public.days.value\n",
            $down->getDisplay(),
        );
        $up = $this->command('fasti:lineage', ['target' => $this->script, 'field' => 'public.reading.value', '--up' => true]);
        self::assertSame("public.days.value  = value\n  public.months.top  = max(value)\n", $up->getDisplay());
        $none = $this->command('fasti:lineage', ['target' => $this->script, 'field' => 'reading.station_id', '--up' => true]);
        self::assertSame("Nothing is made of it.\n", $none->getDisplay());
    }

    public function testOfSeveralAlikeTheOneThatIsWrittenSoIsMeantAndOthersAreAskedFor(): void
    {
        file_put_contents($this->script, <<<'SQL'
            CREATE TABLE public."Reading" ("Value" integer);
            CREATE TABLE public.reading (value integer);
            CREATE TABLE other.gauge (depth integer);
            CREATE TABLE public.gauge (depth integer);
            CREATE VIEW public.sums AS SELECT sum(value) AS s FROM public.reading;
            SQL);
        $follow = fn (string $field): CommandTester => $this->command('fasti:lineage', [
            'target' => $this->script, 'field' => $field, '--up' => true, '--dialect' => 'postgresql',
        ]);

        self::assertSame("public.sums.s  = sum(value)\n", $follow('reading.value')->getDisplay());
        self::assertSame("Nothing is made of it.\n", $follow('Reading.Value')->getDisplay());
        self::assertSame("Nothing is made of it.\n", $follow('other.gauge.depth')->getDisplay());
        foreach (['gauge.depth' => 'any of other.gauge.depth, public.gauge.depth', 'READING.VALUE' => 'any of public.'] as $field => $words) {
            $tester = $follow($field);
            self::assertSame(1, $tester->getStatusCode());
            self::assertStringContainsString($words, (string) preg_replace('/\s+/', ' ', $tester->getErrorOutput()));
        }
        self::assertStringContainsString('There is no table “lake” in the target.', $follow('lake.depth')->getErrorOutput());
    }

    public function testWhatIsNotThereIsSaid(): void
    {
        $tester = $this->command('fasti:lineage', ['target' => $this->script, 'field' => 'months.nosuch']);
        self::assertSame([1, ''], [$tester->getStatusCode(), $tester->getDisplay()]);
        self::assertStringContainsString('public.months has no field “nosuch”', $tester->getErrorOutput());
        self::assertStringContainsString(
            'is not the name of a field',
            $this->command('fasti:lineage', ['target' => $this->script, 'field' => 'months'])->getErrorOutput(),
        );
        self::assertSame(2, $this->command('fasti:lineage', ['target' => $this->script, '--format' => 'xml'])->getStatusCode());
    }

    public function testOpenLineageHasAnEventForEachView(): void
    {
        $events = json_decode(
            $this->command('fasti:lineage', ['target' => $this->script, '--format' => 'openlineage'])->getDisplay(),
            true,
            512,
            \JSON_THROW_ON_ERROR,
        );

        self::assertIsArray($events);
        self::assertSame(
            ['public.days', 'public.months'],
            array_map(
                static fn (mixed $event): mixed => \is_array($event) && \is_array($event['job'] ?? null) ? $event['job']['name'] ?? null : null,
                $events,
            ),
        );
    }

    public function testTheStepsOfAViewAreSaid(): void
    {
        $tester = $this->command('fasti:steps', ['target' => $this->script, 'view' => 'months']);
        self::assertSame(
            "  1  Take days\n  2  Keep only rows where: value > 0\n  3  One row for each different value of: date_trunc('month', taken)\n",
            $tester->getDisplay(),
        );
        self::assertStringContainsString(
            'public.reading is a table, which is made of no query',
            $this->command('fasti:steps', ['target' => $this->script, 'view' => 'reading'])->getErrorOutput(),
        );
        self::assertSame(1, $this->command('fasti:steps', ['target' => $this->script, 'view' => 'nosuch'])->getStatusCode());
    }

    /** @param array<string, mixed> $input */
    private function command(string $name, array $input): CommandTester
    {
        $tester = new CommandTester((new Application(self::$kernel ?? throw new \LogicException('No kernel.')))->find($name));
        $tester->execute($input, ['capture_stderr_separately' => true]);

        return $tester;
    }
}
