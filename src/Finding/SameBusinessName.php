<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Severity;
use Fasti\Register\EntryStore;

/** Entries of one source that bear the same business name. */
final readonly class SameBusinessName implements RegisterCheck
{
    public function __construct(private EntryStore $entries)
    {
    }

    public function name(): string
    {
        return 'same-business-name';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Whoever hears the name cannot tell which of them is meant.';
    }

    public function mend(): string
    {
        return 'Give each a name that says how it differs.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return \sprintf('“%s” is the business name of several entries', $group);
    }

    public function about(): array
    {
        return ['businessName'];
    }

    public function of(): iterable
    {
        foreach ($this->entries->namedAlike() as $entry) {
            yield new Noticed($entry->id, null, \sprintf('Another entry of the source is called “%s” too', $entry->name), $entry->name);
        }
    }
}
