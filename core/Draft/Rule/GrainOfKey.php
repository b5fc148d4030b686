<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Entry;
use Fasti\Core\Draft\EntryRule;
use Fasti\Core\Wording\Enumeration;

/** What one row stands for, from what tells rows apart and where that leads. */
final class GrainOfKey implements EntryRule
{
    public function name(): string
    {
        return 'grain-of-key';
    }

    private const TIMES = ['on', 'at', 'date', 'time', 'day', 'from', 'since', 'valid'];

    public function of(Entry $entry): iterable
    {
        $primary = $entry->table->primaryKey->columns ?? [];
        if ($entry->table->kind->isView()) {
            return;
        }
        $keys = [] === $primary ? [] : [$primary];
        foreach ($entry->table->uniqueKeys as $key) {
            $keys[] = $key->columns;
        }
        usort($keys, static fn (array $a, array $b): int => \count($b) <=> \count($a));
        $composite = $keys[0] ?? [];
        if (\count($composite) > 1 && \count($composite) <= 5) {
            $parts = $this->parts($entry, array_values(array_map(strval(...), $composite)));
            if ([] === array_filter($parts, static fn (string $part): bool => '' === $part)) {
                $own = $primary !== $composite && [] !== $primary;
                yield new Draft('grain', Enumeration::of($parts), $own ? 0.62 : 0.84, ['its key: '.implode(', ',
                    array_map(strval(...), $composite))]);
            }
        }
        if (1 === \count($primary)) {
            yield new Draft('grain', $entry->noun(), \count($composite) > 1 ? 0.5 : 0.6, ["its key is {$primary[0]}, which stands for one ".$entry->noun()]);
        }
    }

    /**
     * @param list<string> $names of the fields of a key
     *
     * @return list<string>
     */
    private function parts(Entry $entry, array $names): array
    {
        $leads = $targets = $parts = [];
        foreach ($names as $name) {
            $lead = $entry->material->leadsOf($entry->entry, $name)[0] ?? null;
            if (null !== $lead) {
                $leads[$name] = $lead;
                $targets[$lead->to][spl_object_id($lead)] = true;
            }
        }
        foreach ($names as $name) {
            $lead = $leads[$name] ?? null;
            $column = $entry->table->column($name);
            // Two fields that lead to one thing together are that one thing; two that each lead to one of a kind are two.
            $apart = null !== $lead && null !== $column && \count($targets[$lead->to]) > 1;
            $of = null === $lead ? $name : spl_object_id($lead);
            $parts[$of] = $apart ? $entry->material->nameOf($entry->entry, $column)->phrase() : $this->part($entry, $name);
        }

        return array_values(array_unique($parts));
    }

    private function part(Entry $entry, string $name): string
    {
        $column = $entry->table->column($name);
        if (null === $column) {
            return '';
        }
        $field = $entry->material->field($entry->entry, $column);
        $lead = $field->lead();
        if (null !== $lead) {
            return $entry->material->noun($lead->to);
        }
        if ($field->isTime()) {
            $words = array_values(array_diff($field->name->without($entry->noun()), self::TIMES));
            $deed = [] !== $words && English::isParticiple($words[\count($words) - 1]) ? '' : implode(' ', $words);

            return trim($deed.' '.($field->isDay() ? 'day' : 'instant'));
        }

        return implode(' ', $field->name->without($entry->noun()));
    }
}
