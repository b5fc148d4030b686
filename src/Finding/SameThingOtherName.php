<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Severity;
use Fasti\Register\Fields;

/** Fields that bear one business name and are called differently. */
final readonly class SameThingOtherName implements RegisterCheck
{
    public function __construct(private Fields $fields)
    {
    }

    public function name(): string
    {
        return 'same-thing-other-name';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Whoever searches by the one name does not find the other.';
    }

    public function mend(): string
    {
        return 'Leave it if it cannot be renamed; a term of the glossary leads from one to the other.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return \sprintf('“%s” is called differently in %d places', $group, $count);
    }

    public function about(): array
    {
        return [];
    }

    public function of(): iterable
    {
        $by = [];
        foreach ($this->fields->sayings() as $field) {
            if ('' !== $field->businessName) {
                $by[$field->source.' '.mb_strtolower($field->businessName)][$field->identifier][] = [$field->id,
                    $field->entry, $field->name, $field->businessName];
            }
        }
        foreach ($by as $names) {
            foreach (\count($names) < 2 ? [] : $names as $identifier => $of) {
                $others = array_values(array_filter($names, static fn (int $other): bool => $other !== $identifier, \ARRAY_FILTER_USE_KEY));
                foreach ($of as [$id, $entry, $name, $called]) {
                    yield new Noticed($entry, $id, \sprintf('“%s” is called %s here and %s elsewhere', $called, $name, $others[0][0][2]), $called);
                }
            }
        }
    }
}
