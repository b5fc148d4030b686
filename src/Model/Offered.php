<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Model\Composer;
use Fasti\Core\Model\FieldOffers;
use Fasti\Core\Model\FormulaReader;
use Fasti\Core\Model\Ground;

/** What the page of a model says beside what the model itself does. */
final readonly class Offered
{
    /** @param array<string, string> $meanings FieldPlace::key() → meaning, from the register */
    public function __construct(private Ground $ground, private array $meanings)
    {
    }

    /** @return array<string, string> "role.attribute" → what the register says of the field that it is */
    public function meanings(): array
    {
        $said = [];
        foreach ($this->ground->model->roles as $role) {
            foreach ($role->attributes as $attribute) {
                $field = $this->ground->formula($role->name, $attribute->expression)->field();
                $entry = null === $field ? null : $this->ground->model->role($field->role)?->entry;
                $said[$role->name.'.'.$attribute->name] = null === $field || null === $entry ? ''
                    : ($this->meanings[(new FieldPlace($entry->schema, $entry->name, $field->column))->key()] ?? '');
            }
        }

        return $said;
    }

    /** @return array<string, string> measure → unit */
    public function units(): array
    {
        $units = [];
        foreach ($this->ground->model->measures as $measure) {
            $there = '' === $measure->fact || null !== $this->ground->roleNamed($measure->fact);
            $units[$measure->name] = $there ? Composer::unitOf($this->ground, $measure) : $measure->unit;
        }

        return $units;
    }

    /** @return array<string, list<array{text: string, words: string}>> what may be typed into an expression of a role */
    public function completions(): array
    {
        $all = [];
        foreach ($this->ground->model->roles as $role) {
            $fields = [];
            foreach ($this->ground->ways()->reached($role->name) as $reached) {
                foreach ($this->ground->table($reached)->columns ?? [] as $column) {
                    $own = $reached === $role->name;
                    $fields[] = [
                        'text' => ($own ? '' : FieldOffers::written($reached).'.').FieldOffers::written($column->name),
                        'words' => $this->ground->dialect->typeInWords($column).($own ? '' : ', of '.$reached),
                    ];
                }
            }
            foreach (FormulaReader::FUNCTIONS as $name => [, , $takes]) {
                $fields[] = ['text' => 'EXTRACT' === $name ? 'EXTRACT(YEAR FROM ' : $name.'(', 'words' => 'of '.$takes];
            }
            foreach (['CASE WHEN ', 'THEN ', 'ELSE ', 'END', 'AND ', 'OR ', 'NOT ', 'IS NULL', 'IN (', 'BETWEEN ', 'LIKE ', 'CAST('] as $word) {
                $fields[] = ['text' => $word, 'words' => ''];
            }
            $all[$role->name] = $fields;
        }

        return $all;
    }
}
