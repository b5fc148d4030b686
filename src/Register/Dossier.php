<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Everything that is known of one entry, gathered once. */
final readonly class Dossier
{
    /**
     * @param array<class-string, object>  $parts    what each room gave
     * @param array<string, list<array{class-string, string}>> $partials slot → what a room gives, and its template
     * @param array<string, string>        $said     texts about the entry that its table has no column for
     * @param array<int, array<string, string>> $saidOfFields the same of its fields
     */
    public function __construct(
        public EntryView $entry,
        private array $parts,
        private array $partials,
        public array $said = [],
        public array $saidOfFields = [],
    ) {
    }

    /**
     * What one room knows of the entry.
     *
     * @template T of object
     *
     * @param class-string<T> $part
     *
     * @return T|null
     */
    public function part(string $part): ?object
    {
        $found = $this->parts[$part] ?? null;

        return $found instanceof $part ? $found : null;
    }

    /** @return list<string> fields whose values no page shows, and so no example that holds them */
    public function withheld(): array
    {
        $withheld = [];
        foreach ($this->parts as $part) {
            if ($part instanceof Withholding) {
                array_push($withheld, ...$part->withheld());
            }
        }

        return array_values(array_unique($withheld));
    }

    /**
     * @param bool $all those of rooms too that know nothing of the entry, where they offer to find out
     *
     * @return list<string> templates to show in a slot
     */
    public function partials(string $slot, bool $all): array
    {
        $templates = [];
        foreach ($this->partials[$slot] ?? [] as [$part, $template]) {
            if ($all || isset($this->parts[$part])) {
                $templates[] = $template;
            }
        }

        return $templates;
    }
}
