<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Model\FieldOffers;
use Fasti\Core\Model\FormulaReader;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;

/** What the page of a model says beside what the model itself does. */
final readonly class Offered
{
    /** @param array<string, string> $meanings FieldPlace::key() → meaning, from the register */
    public function __construct(private Ground $ground, private array $meanings)
    {
    }

    /** @return array<string, list<Role>> in the index: what they are → roles; kinds of which there are some */
    public function index(): array
    {
        $index = [];
        foreach (['Facts' => RoleKind::Fact, 'Dimensions' => RoleKind::Dimension, 'Links' => RoleKind::Link] as $words => $kind) {
            $index[$words] = array_filter($this->ground->model->roles, static fn (Role $role): bool => $kind === $role->kind);
        }

        return array_map(array_values(...), array_filter($index));
    }

    /** @return list<RoleSection> each dimension once, with the roles that it has besides */
    public function sections(): array
    {
        $model = $this->ground->model;
        $sections = [];
        foreach ($model->roles as $role) {
            if (RoleKind::Dimension === $role->kind && '' !== $role->like) {
                continue;
            }
            $sections[] = new RoleSection(
                $role,
                $model->dimension($role),
                array_values(array_filter($model->roles, static fn (Role $other): bool => $other->like === $role->name)),
                array_values(array_filter($model->measures, static fn (Measure $measure): bool => $measure->fact === $role->name)),
            );
        }

        return $sections;
    }

    /** @return list<Measure> computed after everything else */
    public function ratios(): array
    {
        return array_values(array_filter($this->ground->model->measures, static fn (Measure $one): bool => $one->aggregation->isOfMeasures()));
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
            $units[$measure->name] = $there ? $this->ground->unitOf($measure) : $measure->unit;
        }

        return $units;
    }

    /** @return array<string, list<array{text: string, words: string}>> what may be typed into an expression of a role */
    public function completions(): array
    {
        $measures = array_map(static fn (Measure $one): array => [
            'text' => FieldOffers::written($one->name),
            'words' => $one->meaning ?: 'a measure',
        ], $this->ground->model->measures);
        $all = ['' => [...$measures, ...self::functions(['ABS', 'ROUND', 'COALESCE', 'NULLIF', 'GREATEST', 'LEAST'])]];
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
            $all[$role->name] = [...$fields, ...self::functions(array_keys(FormulaReader::FUNCTIONS))];
        }

        return $all;
    }

    /**
     * @param list<string> $names
     *
     * @return list<array{text: string, words: string}>
     */
    private static function functions(array $names): array
    {
        $all = [];
        foreach ($names as $name) {
            $all[] = ['text' => 'EXTRACT' === $name ? 'EXTRACT(YEAR FROM ' : $name.'(', 'words' => 'of '.FormulaReader::FUNCTIONS[$name][2]];
        }
        foreach (['CASE WHEN ', 'THEN ', 'ELSE ', 'END', 'AND ', 'OR ', 'NOT ', 'IS NULL', 'IN (', 'BETWEEN ', 'LIKE ', 'CAST('] as $word) {
            $all[] = ['text' => $word, 'words' => ''];
        }

        return $all;
    }
}
