<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Sql\ReadField;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;

/** Which fields of a catalog are made of which. Fields are keys of FieldPlace. */
final class Graph
{
    /** @var array<string, list<string>> a field of a view → those that it is computed from */
    private array $from = [];
    /** @var array<string, list<string>> a field → those of views that are computed from it */
    private array $made = [];

    /** @param array<string, Reading> $readings by the key of the view's place */
    public function __construct(public readonly array $readings)
    {
        foreach ($readings as $key => $reading) {
            foreach ($reading->fields as $field) {
                $of = $key."\0".$field->name;
                foreach ($field->values as $value) {
                    $this->from[$of][] = $value->key();
                    $this->made[$value->key()][] = $of;
                }
            }
        }
    }

    public static function of(Catalog $catalog): self
    {
        return new self((new Readings($catalog))->all());
    }

    /**
     * All that fields come from, or all that is made of them, by breadth-first search.
     *
     * @param list<string> $starts
     *
     * @return array<string, int> key → how many steps away; the starts are 0 away
     */
    public function reach(array $starts, bool $up): array
    {
        $edges = $up ? $this->made : $this->from;
        $found = array_fill_keys($starts, 0);
        $front = $starts;
        for ($away = 1; [] !== $front; ++$away) {
            $next = [];
            foreach ($front as $key) {
                foreach ($edges[$key] ?? [] as $other) {
                    if (!isset($found[$other])) {
                        $found[$other] = $away;
                        $next[] = $other;
                    }
                }
            }
            $front = $next;
        }

        return $found;
    }

    public function field(string $key): ?ReadField
    {
        $place = FieldPlace::ofKey($key);
        foreach ($this->readings[$place->place()->key()]->fields ?? [] as $field) {
            if ($field->name === $place->column) {
                return $field;
            }
        }

        return null;
    }

    /**
     * The open form that `fasti:lineage` prints.
     *
     * @param array<string, true>|null $fields keys of those to tell of; null for all of all views
     * @param string                   $schema only views of this one; '' for all
     *
     * @return array{fields: list<array<string, mixed>>, references: list<array<string, mixed>>, unknown: list<array<string, mixed>>}
     */
    public function toArray(?array $fields = null, string $schema = ''): array
    {
        $all = ['fields' => [], 'references' => [], 'unknown' => []];
        foreach ($this->readings as $key => $reading) {
            $view = Place::ofKey($key);
            if ('' !== $schema && $view->schema !== $schema) {
                continue;
            }
            $told = false;
            foreach ($reading->fields as $field) {
                if (null === $fields || isset($fields[$key."\0".$field->name])) {
                    $told = true;
                    $all['fields'][] = [
                        'of' => self::column(new FieldPlace($view->schema, $view->name, $field->name)),
                        'from' => array_map(self::column(...), $field->values),
                        'expression' => $field->expression,
                    ];
                }
            }
            if (null !== $fields && !$told) {
                continue;
            }
            $of = ['schema' => $view->schema, 'table' => $view->name];
            foreach ($reading->references as $reference) {
                $all['references'][] = ['of' => $of, 'to' => self::column($reference)];
            }
            foreach ($reading->unknown as $unknown) {
                $all['unknown'][] = ['of' => $of, 'at' => $unknown->place($reading->text), 'what' => $unknown->what];
            }
        }

        return $all;
    }

    /** @return array{schema: string, table: string, column: string} */
    public static function column(FieldPlace $field): array
    {
        return ['schema' => $field->schema, 'table' => $field->table, 'column' => $field->column];
    }
}
