<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Lineage\Step;

/** What was read of the query of a view: its steps, the words of its fields, and what was not understood. */
final readonly class ViewReading
{
    /**
     * @param list<Step>   $steps
     * @param list<string> $names       of its fields
     * @param list<string> $expressions of each of them
     * @param list<string> $places      of what was not understood: line and column
     * @param list<string> $unknown     what it was, in sentences
     * @param list<string> $lines       of its query, set in lines, each as JSON: how far in, and pieces of kind, text, and what they mean
     * @param list<string> $key         fields that together tell its rows apart, as far as it follows
     */
    public function __construct(
        #[ListOf(Step::class)]
        public array $steps = [],
        #[ListOf('string')]
        public array $names = [],
        #[ListOf('string')]
        public array $expressions = [],
        #[ListOf('string')]
        public array $places = [],
        #[ListOf('string')]
        public array $unknown = [],
        #[ListOf('string')]
        public array $lines = [],
        #[ListOf('string')]
        public array $key = [],
    ) {
    }

    public function expression(string $field): ?string
    {
        $i = array_search($field, $this->names, true);

        return false === $i ? null : $this->expressions[$i] ?? null;
    }

    /**
     * @return list<array{string, list<array{string, string, ?string, ?string, ?string}>}> the blanks before it, and pieces: kind, text, schema, table, field
     */
    public function set(): array
    {
        $lines = [];
        foreach ($this->lines as $line) {
            $read = json_decode($line, true);
            if (\is_array($read) && \is_int($read[0] ?? null) && \is_array($read[1] ?? null)) {
                $pieces = [];
                foreach ($read[1] as $piece) {
                    $text = static fn (int $i): ?string => \is_array($piece) && \is_string($piece[$i] ?? null) ? $piece[$i] : null;
                    $pieces[] = [$text(0) ?? 'sign', $text(1) ?? '', $text(2), $text(3), $text(4)];
                }
                $lines[] = [str_repeat('  ', $read[0]), $pieces];
            }
        }

        return $lines;
    }
}
