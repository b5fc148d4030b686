<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\ChangeStep;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Matching;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Design\Working;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Survey\SourceError;
use Fasti\Diagram\Diagrams;
use Fasti\Diagram\Pieces;
use Fasti\Model\Models;
use Fasti\Profile\PrivacyPart;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Source\Source;

/** What would have to change so that the source a design began with becomes the design. */
final readonly class Planning
{
    public function __construct(
        private Beginning $beginning,
        private Abbreviations $short,
        private EntryStore $entries,
        private Fields $fields,
        private Pieces $pieces,
        private Diagrams $diagrams,
        private Models $models,
        private Entries $views,
        private PrivacyPart $privacy,
    ) {
    }

    /**
     * @param bool $placed each table is named with its schema, as whoever asks a source has to
     *
     * @return array{Changes, Catalog, Catalog} the plan, what there is, and what was designed
     *
     * @throws SourceError where the design cannot be written for the engine of its source
     */
    public function of(KeptDesign $kept, bool $placed = false): array
    {
        $source = $kept->source ?? throw new SourceError('This design began with nothing, so that there is nothing to change.', '');
        $before = self::within($this->beginning->catalog($source), $kept->taken);
        $dialect = Dialects::ofCatalog($before);
        $schemas = array_unique(array_map(static fn (Table $table): string => $table->schema, $before->tables));
        $schema = 1 === \count($schemas) ? (string) array_values($schemas)[0] : ($dialect->capabilities()->home ?? '');
        $physical = new Physical(Working::of($kept->design()), $dialect, $this->short->all(), $schema);
        $options = new ScriptOptions(places: \count($schemas) > 1);
        $after = ReadBack::script((new DesignScript($physical))->text($options), $dialect, $schema);

        $matching = Matching::of($before, $after, $physical);

        return [Changes::between($before, $after, $matching, $placed ? new ScriptOptions(places: true) : $options, $kept->fates), $before, $after];
    }

    /** @return array<string, string> FieldPlace::key() → why values of a field of a source are kept from people */
    public function closed(Source $source): array
    {
        return $this->privacy->places($this->views->load(array_values($this->entries->places($source->id())), false));
    }

    /** @param list<string>|null $taken keys of places; null for all of the source */
    private static function within(Catalog $catalog, ?array $taken): Catalog
    {
        return null === $taken ? $catalog->with(routines: []) : $catalog->with(
            tables: array_values(array_filter($catalog->tables, static fn (Table $table): bool => \in_array($table->place()->key(), $taken, true))),
            routines: [],
        );
    }

    /**
     * What of the register the steps touch: diagrams, models and what is written.
     *
     * @return array{diagrams: array<int, string>, models: array<int, string>, texts: list<array{entry: int, title: string, what: string}>}
     */
    public function touched(KeptDesign $kept, Changes $changes, Catalog $before): array
    {
        $source = $kept->source?->id() ?? 0;
        $places = $this->entries->places($source);
        $named = [];
        foreach ($before->tables as $table) {
            $named[$table->name][] = $places[$table->place()->key()] ?? 0;
        }
        $entries = $fieldIds = $texts = [];
        foreach ($changes->steps as $step) {
            [$table, $field] = $step->field ?? ['', null];
            foreach ($named[$table] ?? [] as $entry) {
                if ($entry > 0) {
                    $entries[$entry] = true;
                    $id = null === $field ? null : ($this->fields->ids([$entry])[$entry][$field] ?? null);
                    if (null !== $id) {
                        $fieldIds[$id] = true;
                    }
                    if (ChangeStep::LOSES === $step->risk) {
                        $texts[] = [
                            'entry' => $entry,
                            'title' => $table.(null === $field ? '' : '.'.$field),
                            'what' => $step->words,
                        ];
                    }
                }
            }
        }
        $all = [];
        foreach ($this->diagrams->all() as $diagram) {
            $all[$diagram->id()] = $diagram->name;
        }
        $ids = array_merge([], ...array_values($this->pieces->diagramsOf(array_keys($entries))));
        $models = [];
        foreach ($this->models->standingOn(array_keys($fieldIds)) as $uses) {
            foreach ($uses as $use) {
                $models[$use->model] = $use->name;
            }
        }

        return ['diagrams' => array_intersect_key($all, array_flip($ids)), 'models' => $models, 'texts' => $texts];
    }
}
