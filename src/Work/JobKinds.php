<?php

declare(strict_types=1);

namespace Fasti\Work;

use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

final class JobKinds
{
    /** @var array<string, JobKind>|null */
    private ?array $kinds = null;

    /** @param iterable<JobKind> $all */
    public function __construct(#[AutowireIterator(JobKind::class)] private readonly iterable $all)
    {
    }

    public function of(string $name): JobKind
    {
        return $this->known()[$name] ?? throw new \LogicException(\sprintf('There is no kind of job called %s.', $name));
    }

    /** @return list<string> names of those that go before one of this urgency */
    public function before(int $urgency): array
    {
        return array_keys(array_filter($this->known(), static fn (JobKind $kind): bool => $kind->urgency() > $urgency));
    }

    /** @return list<string> names of those of which one runs at a time */
    public function oneAtATime(): array
    {
        return ['', ...array_keys(array_filter($this->known(), static fn (JobKind $kind): bool => $kind instanceof OneAtATime))];
    }

    /** @return array<string, JobKind> */
    private function known(): array
    {
        if (null === $this->kinds) {
            $this->kinds = [];
            foreach ($this->all as $kind) {
                $this->kinds[$kind->name()] = $kind;
            }
        }

        return $this->kinds;
    }
}
