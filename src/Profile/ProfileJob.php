<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\CodeList\CodeLists;
use Fasti\Core\Survey\SourceError;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Profiles entries of a source one by one. Each is kept as soon as it is done, so that a pause or a fault loses at most one. */
final readonly class ProfileJob implements JobKind
{
    public const NAME = 'profile';

    public function __construct(
        private EntityManagerInterface $entities,
        private Sources $sources,
        private RegisterCatalog $register,
        private EntryStore $entries,
        private Fields $fields,
        private Profiles $profiles,
        private EventDispatcherInterface $events,
        private CodeLists $lists,
    ) {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function act(): string
    {
        return Act::ASK;
    }

    public function pauses(): bool
    {
        return true;
    }

    public function urgency(): int
    {
        return 0;
    }

    public function page(Job $job): array
    {
        return ['profile_run', ['id' => $job->id()] + (0 === $job->number('entry') ? [] : ['entry' => $job->number('entry')])];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. What was profiled is kept; go on with the rest when you like.';
    }

    public function cameToItsEnd(Job $job): bool
    {
        return [] === self::waiting($job);
    }

    /**
     * @param list<int> $waiting
     *
     * @return array<string, mixed>
     */
    public static function payload(int $source, array $waiting, int $entry): array
    {
        return ['source' => $source, 'waiting' => $waiting, 'total' => \count($waiting), 'entry' => $entry];
    }

    /** @return list<int> entries still to be profiled */
    public static function waiting(Job $job): array
    {
        $waiting = $job->payload['waiting'] ?? [];

        return array_values(array_map(intval(...), array_filter(\is_array($waiting) ? $waiting : [], is_numeric(...))));
    }

    public function run(Running $running): void
    {
        $job = $running->job;
        $source = $this->entities->find(Source::class, $job->number('source')) ?? throw new JobFailed('The source is not there any more.');
        $profiling = new Profiling($this->sources, $this->sources->target($source));
        $left = self::waiting($job);
        while ([] !== $left) {
            $this->profile($left[0], $profiling, $running, $job->number('total') - \count($left));
            array_shift($left);
            $running->keep(['waiting' => $left] + $job->payload);
            if ([] !== $left) {
                $running->pause();
            }
        }
        if (0 === $job->number('entry')) {
            $this->events->dispatch(new SourceProfiled($source->id()));
        }
    }

    private function profile(int $entry, Profiling $profiling, Running $running, int $done): void
    {
        $table = $this->register->entry($entry);
        if (null === $table) {
            return;
        }
        $progress = $running->within('Looking at ', $done, $running->job->number('total'));
        $present = $this->fields->present($entry);
        $names = $this->fields->called($present);
        [$of, $why] = $this->lists->allowed($present);
        $allowed = [];
        foreach ($of as $field => $one) {
            $allowed[$names[$field]] = $one;
        }
        foreach ($why as $field => $words) {
            $running->note(\sprintf('What is allowed in %s.%s was not checked: %s', $table->name, $names[$field], $words));
        }
        try {
            $figures = $profiling->table($table, $this->entries->grainFields($entry), $this->fields->decisions($entry), $progress, $allowed);
            $this->profiles->keep($entry, $figures);
        } catch (SourceError $e) {
            if (SourceError::LOST === $e->what) {
                throw new JobFailed($e->inWords().' What was profiled before is kept.', 0, $e);
            }
            // One table that cannot be read, dropped or closed meanwhile, must not keep the others from being profiled.
            $running->note(\sprintf('%s was left out: %s', $table->place(), $e->inWords()));
        }
    }
}
