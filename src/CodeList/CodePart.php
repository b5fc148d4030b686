<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Fasti\Register\DossierPart;
use Fasti\Register\Slot;

/**
 * What the codes of a field mean, beside its values; and a key that makes a list of them.
 *
 * @implements DossierPart<EntryCodes>
 */
final readonly class CodePart implements DossierPart
{
    private const SHOWN = 30;

    public function __construct(private CodeLists $lists)
    {
    }

    public function gives(): string
    {
        return EntryCodes::class;
    }

    public function of(array $entries): array
    {
        $fields = [];
        foreach ($entries as $entry) {
            foreach ($entry->fields as $field) {
                $fields[$field->id] = $entry->id;
            }
        }
        $found = $labels = [];
        foreach ($this->lists->ofFields(array_keys($fields)) as $field => $name) {
            $of = $labels[$name] ??= ['name' => $name, 'id' => $this->lists->named($name), 'all' => $this->lists->labels($name, self::SHOWN + 1)];
            $found[$fields[$field]][$field] = [
                'name' => $name, 'id' => $of['id'], 'labels' => \array_slice($of['all'], 0, self::SHOWN, true), 'more' => \count($of['all']) > self::SHOWN,
            ];
        }

        return array_map(static fn (array $lists): EntryCodes => new EntryCodes($lists), $found);
    }

    public function partials(): array
    {
        return [Slot::FieldFacts->value => 'code_list/_field.html.twig'];
    }
}
