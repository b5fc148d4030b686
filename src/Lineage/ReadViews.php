<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;
use Fasti\Finding\Findings;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\RegisterCatalog;
use Fasti\Register\RegisterFollowed;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** Reads the views of a source anew when the register follows it: what a view means changes with the tables under it. */
final readonly class ReadViews
{
    public function __construct(
        private RegisterCatalog $catalog,
        private EntryStore $entries,
        private Fields $fields,
        private ReadingStore $store,
        private Findings $findings,
        private NotUnderstood $check,
    ) {
    }

    // Before the checks run: some of them ask what depends on what.
    #[AsEventListener(priority: 10)]
    public function followed(RegisterFollowed $followed): void
    {
        $this->source($followed->source);
    }

    public function source(int $source): void
    {
        if (!$this->entries->hasViews($source)) {
            return;
        }
        [$whole, $gone] = $this->catalog->of($source);
        $views = array_values(array_filter($whole->tables, static fn (Table $table): bool => $table->kind->isView()));
        $catalog = $whole->with(tables: array_values(array_filter($whole->tables, static fn (Table $table): bool => !isset($gone[$table->place()->key()]))));
        $places = $this->entries->places($source);
        $fields = $this->fields->ids(array_values($places));
        $maker = new ReadingMaker($catalog);
        $readings = $edges = $noticed = [];
        foreach ((new Readings($catalog))->all() as $key => $reading) {
            $view = $places[$key];
            $readings[$view] = $maker->of($reading);
            array_push($edges, ...self::edges($view, $reading, $places, $fields));
            if ([] !== $reading->unknown) {
                $noticed[] = $this->check->of($view, $reading);
            }
        }
        $ids = array_map(static fn (Table $view): int => $places[$view->place()->key()], $views);
        $this->store->replace($ids, $readings, $edges);
        $this->findings->follow($this->check, $noticed, $ids);
    }

    /**
     * @param array<string, int>             $places
     * @param array<int, array<string, int>> $fields
     *
     * @return list<array{int, int, int, string}>
     */
    private static function edges(int $view, Reading $reading, array $places, array $fields): array
    {
        $id = static function (FieldPlace $field) use ($places, $fields): int {
            $entry = $places[$field->place()->key()] ?? 0;

            return $fields[$entry][$field->column] ?? 0;
        };
        $wanted = [];
        foreach ($reading->fields as $field) {
            $of = $fields[$view][$field->name] ?? 0;
            foreach ($of > 0 ? [...$field->values, ...$field->conditions] : [] as $i => $from) {
                $wanted[] = [$of, $id($from), $i < \count($field->values) ? Part::Value : Part::Condition];
            }
        }
        foreach ($reading->conditions as $from) {
            $wanted[] = [0, $id($from), Part::Condition];
        }
        $named = array_flip(array_column($wanted, 1));
        foreach ($reading->references as $from) {
            if (!isset($named[$id($from)])) {
                $wanted[] = [0, $id($from), Part::Named];
            }
        }
        $edges = [];
        foreach ($wanted as [$of, $from, $part]) {
            if ($from > 0) {
                $edges[$of.'/'.$from.'/'.$part->value] = [$view, $of, $from, $part->value];
            }
        }

        return array_values($edges);
    }
}
