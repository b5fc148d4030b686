<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Sql\Reading;

/**
 * Lineage in the form of the OpenLineage standard: for each view an event of a job that makes it, with the facet
 * ColumnLineageDatasetFacet 1-2-0 on its output. Fields that a view is computed from are DIRECT, those that decide about its
 * rows INDIRECT.
 */
final readonly class OpenLineage
{
    private const PRODUCER = 'urn:fasti';

    /** @param string $namespace of the datasets: where they stand */
    public function __construct(private string $namespace, private string $time)
    {
    }

    /**
     * @param array<string, Reading> $readings by the key of the view's place
     *
     * @return list<array<string, mixed>> one event for each view
     */
    public function events(array $readings): array
    {
        $events = [];
        foreach ($readings as $key => $reading) {
            $events[] = $this->event(Place::ofKey($key), $reading);
        }

        return $events;
    }

    /** @return array<string, mixed> */
    private function event(Place $view, Reading $reading): array
    {
        $fields = [];
        foreach ($reading->fields as $field) {
            $fields[$field->name] = ['inputFields' => [
                ...array_map(
                    fn (FieldPlace $of): array => $this->input($of, 'DIRECT', $field->unchanged ? 'IDENTITY' : 'TRANSFORMATION', $field->expression),
                    $field->values,
                ),
                ...array_map(fn (FieldPlace $of): array => $this->input($of, 'INDIRECT', 'CONDITIONAL'), $field->conditions),
            ]];
        }
        $hash = md5($this->namespace.$view->key());

        return [
            'eventType' => 'COMPLETE',
            'eventTime' => $this->time,
            'run' => ['runId' => substr($hash, 0, 8).'-'.substr($hash, 8, 4).'-4'.substr($hash, 13, 3).'-8'.substr($hash, 17, 3).'-'.substr($hash, 20)],
            'job' => ['namespace' => $this->namespace, 'name' => (string) $view, 'facets' => ['sql' => [
                '_producer' => self::PRODUCER, '_schemaURL' => 'https://openlineage.io/spec/facets/1-0-1/SQLJobFacet.json', 'query' => $reading->text,
            ]]],
            'inputs' => array_map(fn (Place $table): array => ['namespace' => $this->namespace, 'name' => (string) $table], $reading->tables),
            'outputs' => [['namespace' => $this->namespace, 'name' => (string) $view, 'facets' => ['columnLineage' => [
                '_producer' => self::PRODUCER,
                '_schemaURL' => 'https://openlineage.io/spec/facets/1-2-0/ColumnLineageDatasetFacet.json',
                'fields' => [] === $fields ? new \stdClass() : $fields,
                'dataset' => array_map(fn (FieldPlace $of): array => $this->input($of, 'INDIRECT', 'FILTER'), $reading->conditions),
            ]]]],
            'producer' => self::PRODUCER,
            'schemaURL' => 'https://openlineage.io/spec/2-0-2/OpenLineage.json#/$defs/RunEvent',
        ];
    }

    /** @return array<string, mixed> */
    private function input(FieldPlace $of, string $type, string $how, string $words = ''): array
    {
        return ['namespace' => $this->namespace, 'name' => (string) $of->place(), 'field' => $of->column, 'transformations' => [
            ['type' => $type, 'subtype' => $how, 'description' => $words, 'masking' => false],
        ]];
    }
}
