<?php

declare(strict_types=1);

namespace Fasti\Work;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** One kind of long work. A class that implements this is all that a new kind needs. */
#[AutoconfigureTag]
interface JobKind
{
    /** As the database has it. */
    public function name(): string;

    /** The act that somebody needs to pause, cancel or go on with it. */
    public function act(): string;

    /** It can be paused, and goes on where it was. */
    public function pauses(): bool;

    /** Of several that wait, those with the higher number go first; one that is running and pauses lets them. */
    public function urgency(): int;

    /** @return array{string, array<string, int|string>} the route of the page that shows it, and its parameters */
    public function page(Job $job): array;

    /**
     * Does the work. It is not done again by itself when it fails.
     *
     * @throws \Fasti\Core\Survey\Stopped     when somebody asked it to pause or stop
     * @throws \Fasti\Core\Survey\SourceError with words for people
     * @throws JobFailed                      with words for people
     */
    public function run(Running $running): void;

    /** What to say of one whose worker died, or where Fasti itself failed: what stands, and what to do. */
    public function wordsWhenBroken(Job $job): string;

    /** Whether one whose worker died had come to its end all the same. */
    public function cameToItsEnd(Job $job): bool;
}
