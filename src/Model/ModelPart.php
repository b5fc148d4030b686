<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Register\DossierPart;
use Fasti\Register\Slot;

/**
 * What analytic models make of an entry.
 *
 * @implements DossierPart<ModelsIn>
 */
final readonly class ModelPart implements DossierPart
{
    public function __construct(private Models $models)
    {
    }

    public function gives(): string
    {
        return ModelsIn::class;
    }

    public function of(array $entries): array
    {
        $of = [];
        foreach ($entries as $entry) {
            foreach ($entry->fields as $field) {
                $of[$field->id] = $entry->id;
            }
        }
        $made = [];
        foreach ($this->models->standingOn(array_keys($of)) as $field => $uses) {
            foreach ($uses as $use) {
                if (\in_array($use->kind, ['measure', 'attribute'], true)) {
                    $made[$of[$field]][$field][] = ['model' => $use->model, 'name' => $use->name, 'words' => ModelUses::words($use->kind, $use->part)];
                }
            }
        }

        return array_map(static fn (array $fields): ModelsIn => new ModelsIn($fields), $made);
    }

    public function partials(): array
    {
        return [Slot::FieldFacts->value => 'model/_made_of.html.twig'];
    }
}
