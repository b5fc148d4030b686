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
        [$whole, $gone] = $this->catalog->of($source);
        $views = array_values(array_filter($whole->tables, static fn (Table $table): bool => $table->kind->isView()));
        if ([] === $views) {
            return;
        }
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
        $id = static function (FieldPlace $field) use ($places, $fields): ?int {
            $entry = $places[$field->place()->key()] ?? null;

            return null === $entry ? null : $fields[$entry][$field->column] ?? null;
        };
        $edges = $named = [];
        /** @param list<FieldPlace> $from */
        $add = static function (int $of, array $from, Part $part) use (&$edges, &$named, $view, $id): void {
            foreach ($from as $field) {
                $known = $id($field);
                if (null !== $known) {
                    $edges[$of.'/'.$known.'/'.$part->value] = [$view, $of, $known, $part->value];
                    $named[$known] = true;
                }
            }
        };
        foreach ($reading->fields as $field) {
            $of = $fields[$view][$field->name] ?? null;
            if (null !== $of) {
                $add($of, $field->values, Part::Value);
                $add($of, $field->conditions, Part::Condition);
            }
        }
        $add(0, $reading->conditions, Part::Condition);
        foreach ($reading->references as $reference) {
            if (!isset($named[$id($reference) ?? 0])) {
                $add(0, [$reference], Part::Named);
            }
        }

        return array_values($edges);
    }
}
