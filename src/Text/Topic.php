<?php

declare(strict_types=1);

namespace Fasti\Text;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A kind of thing that people write about. The room that keeps such things brings it; found by tag. */
#[AutoconfigureTag]
interface Topic
{
    /** As the history has it: `entry`. */
    public function name(): string;

    /**
     * Locks the thing until the transaction ends, and whatever else a change of it will write, always in the same order.
     *
     * @return Subject|null null where there is no such thing
     */
    public function locked(int $id): ?Subject;

    /** The text as it stands; '' for one that Said keeps and nobody has written. */
    public function read(int $id, string $column): string;

    public function write(Subject $subject, string $column, string $value): void;

    /** After any text about the thing was written, wherever it is kept. */
    public function touched(Subject $subject, Property $property): void;

    /**
     * What the history calls these things, where it is not what its page is about.
     *
     * @param list<int> $ids
     *
     * @return array<int, string>
     */
    public function names(array $ids): array;
}
