<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Work;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Fasti\Tests\App\AppTestCase;
use Fasti\Work\CurrentJob;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\JobKinds;
use Fasti\Work\Jobs;
use Fasti\Work\RunJob;
use Fasti\Work\RunJobHandler;
use Fasti\Work\Running;
use Fasti\Work\State;
use Fasti\Work\SteppedBack;
use PHPUnit\Framework\Attributes\DataProvider;
use Psr\Log\NullLogger;
use Symfony\Component\Messenger\MessageBusInterface;

/** Long work of any kind, with kinds made up for the test: one class is all that a kind needs. */
final class JobsTest extends AppTestCase
{
    /** @param \Closure(Running): void $work */
    private static function kind(\Closure $work, string $name = 'made-up', int $urgency = 0, bool $pauses = true): JobKind
    {
        return new class($work, $name, $urgency, $pauses) implements JobKind {
            /** @param \Closure(Running): void $work */
            public function __construct(private \Closure $work, private string $name, private int $urgency, private bool $pauses)
            {
            }

            public function name(): string
            {
                return $this->name;
            }

            public function act(): string
            {
                return 'ask';
            }

            public function pauses(): bool
            {
                return $this->pauses;
            }

            public function urgency(): int
            {
                return $this->urgency;
            }

            public function page(Job $job): array
            {
                return ['sources', []];
            }

            public function run(Running $running): void
            {
                ($this->work)($running);
            }

            public function wordsWhenBroken(Job $job): string
            {
                return 'It broke.';
            }

            public function cameToItsEnd(Job $job): bool
            {
                return 'end' === ($job->payload['at'] ?? '');
            }
        };
    }

    private static function jobs(JobKind ...$kinds): Jobs
    {
        $manager = self::get(\Doctrine\ORM\EntityManagerInterface::class);

        return new Jobs($manager, self::db(), new JobKinds($kinds), self::get(MessageBusInterface::class));
    }

    private static function handled(Jobs $jobs, int $id, JobKind ...$kinds): void
    {
        (new RunJobHandler(
            $jobs, new JobKinds($kinds), self::get(\Doctrine\Persistence\ManagerRegistry::class), new NullLogger(), new CurrentJob(),
        ))(new RunJob($id));
    }

    public function testOnlyOneWorkerTakesAJobAndOneOfALaneRunsAtATime(): void
    {
        $kind = self::kind(static function (): void {});
        $other = self::kind(static function (): void {}, 'other');
        $jobs = self::jobs($kind, $other);
        $first = $jobs->start($kind, 'source 1', [], null)->id();
        $second = $jobs->start($other, 'source 1', [], null)->id();
        $elsewhere = $jobs->start($other, 'source 2', [], null)->id();

        self::assertTrue($jobs->claim($first));
        self::assertFalse($jobs->claim($first), 'It is taken.');
        self::assertNull($jobs->claim($second), 'It has to wait for the other of its lane.');
        self::assertTrue($jobs->claim($elsewhere), 'Other lanes go on.');
        $jobs->end($first, State::Done);
        self::assertTrue($jobs->claim($second));
    }

    public function testASecondOfTheSameKindInALaneIsTheFirst(): void
    {
        $kind = self::kind(static function (): void {});
        $jobs = self::jobs($kind);

        $made = 0;
        $count = static function () use (&$made): void { ++$made; };
        $first = $jobs->start($kind, 'source 1', [], null, $count)->id();
        self::assertSame($first, $jobs->start($kind, 'source 1', [], null, $count)->id());
        self::assertSame(1, $made);
        $jobs->claim($first);
        $jobs->end($first, State::Failed, 'no');
        self::assertNotSame($first, $jobs->start($kind, 'source 1', [], null)->id());
    }

    /** @return iterable<string, array{\Throwable, string, string}> */
    public static function troubles(): iterable
    {
        yield 'words for people' => [new JobFailed('The disk is full.'), 'failed', 'The disk is full.'];
        yield 'a source' => [new SourceError('Nothing answers.', 'Check the port.'), 'failed', 'Nothing answers. Check the port.'];
        yield 'Fasti itself' => [new \TypeError('secret inner words'), 'failed', 'It broke.'];
        yield 'stopped' => [new Stopped(), 'cancelled', ''];
        yield 'letting another go first' => [new SteppedBack(), 'waiting', ''];
    }

    #[DataProvider('troubles')]
    public function testHoweverItGoesItEndsInWords(\Throwable $trouble, string $state, string $words): void
    {
        $kind = self::kind(static fn () => throw $trouble);
        $jobs = self::jobs($kind);
        $id = $jobs->start($kind, 'a', [], null)->id();
        self::handled($jobs, $id, $kind);

        $error = (string) $jobs->find($id)?->error;
        self::assertSame($state, self::state($id));
        self::assertStringContainsString($words, $error);
        self::assertStringNotContainsString('inner words', $error);
    }

    public function testItIsToldByItsOwnSilenceThatItsWorkerDied(): void
    {
        $kind = self::kind(static function (): void {});
        $whole = self::kind(static function (): void {}, 'whole', 0, false);
        $jobs = self::jobs($kind, $whole);
        $ids = [
            'paused' => $jobs->start($kind, 'a', [], null)->id(),
            'done' => $jobs->start($kind, 'b', ['at' => 'end'], null)->id(),
            'failed' => $jobs->start($whole, 'c', [], null)->id(),
        ];
        array_map(self::fallSilent(...), $ids);
        $alive = $jobs->start($kind, 'd', [], null)->id();
        $jobs->claim($alive);
        $jobs->endAbandoned();

        foreach ($ids as $state => $id) {
            self::assertSame($state, self::state($id));
        }
        self::assertSame('running', self::state($alive));
    }

    public function testOneThatWasTakenForDeadAndIsNotStopsAtItsNextWord(): void
    {
        $kind = self::kind(static function (): void {});
        $jobs = self::jobs($kind);
        $job = $jobs->start($kind, 'a', [], null);
        self::fallSilent($job->id());
        $jobs->endAbandoned();

        $this->expectException(Stopped::class);
        (new Running($job, $jobs, $kind))->at('still there', 1, 2);
    }

    public function testItGoesOnWhereItWasAndKeepsItsNotes(): void
    {
        $kind = self::kind(static function (Running $running): void {
            $at = $running->job->number('at');
            $running->note("part $at");
            $running->keep(['at' => $at + 1]);
            if (0 === $at) {
                throw new Stopped();
            }
        });
        $jobs = self::jobs($kind);
        $job = $jobs->start($kind, 'a', ['at' => 0], null);
        self::handled($jobs, $job->id(), $kind);
        self::assertSame('cancelled', self::state($job->id()));
        $again = $jobs->find($job->id()) ?? self::fail('It vanished.');
        $jobs->ask($again, 'resume');
        self::handled($jobs, $job->id(), $kind);

        $done = $jobs->find($job->id()) ?? self::fail('It vanished.');
        self::assertSame([State::Done, ['part 0', 'part 1'], 2], [$done->state, $done->notes, $done->number('at')]);
    }

    public function testOneThatPausesLetsTheMoreUrgentGoFirst(): void
    {
        $urgent = self::kind(static function (): void {}, 'urgent', 10);
        $patient = self::kind(static fn (Running $running) => $running->pause(), 'patient');
        $jobs = self::jobs($urgent, $patient);
        $id = $jobs->start($patient, 'a', [], null)->id();
        $jobs->start($urgent, 'b', [], null);
        self::handled($jobs, $id, $urgent, $patient);

        self::assertSame('waiting', self::state($id));
    }
}
