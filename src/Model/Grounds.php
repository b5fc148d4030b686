<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\CodeList\CodeLists;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Join\End;
use Fasti\Core\Model\FieldUse;
use Fasti\Core\Model\Figure;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Known;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\PlanColumn;
use Fasti\Core\Model\Question;
use Fasti\Core\Model\Trial;
use Fasti\Core\Privacy\Privacy;
use Fasti\Join\JoinEvidences;
use Fasti\Profile\PrivacyPart;
use Fasti\Profile\Profiles;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\JoinView;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\SourceStore;
use Fasti\Text\SaidStore;

/** Models on the entries of the register that they stand on, and what is known of those. */
final readonly class Grounds
{
    public function __construct(
        private RegisterCatalog $register,
        private EntryStore $store,
        private Entries $entries,
        private Fields $fields,
        private JoinEvidences $evidences,
        private SaidStore $said,
        private SourceStore $sources,
        private PrivacyPart $privacy,
        private Models $models,
        private Profiles $profiles,
        private CodeLists $lists,
    ) {
    }

    public function of(KeptModel $kept): Ground
    {
        return $this->ofModel($kept->model(), $kept->source->id());
    }

    public function ofModel(Model $model, int $source): Ground
    {
        $entries = $this->entriesOf($model, $source);
        $tables = [];
        foreach ($entries as $entry) {
            $table = $this->register->entry($entry);
            if (null !== $table) {
                $tables[] = $table;
            }
        }

        return new Ground($model, new Catalog($this->sources->engine($source), '', $tables), $this->units($entries), array_filter(
            $this->privacy->places($this->entries->load(array_values($entries), false)),
            Privacy::isSecret(...),
        ), $this->codes($entries));
    }

    /**
     * @param array<string, int> $entries
     *
     * @return \Closure(string): array<array-key, string> FieldPlace::key() → codes with their labels; looked up where a question needs them
     */
    private function codes(array $entries): \Closure
    {
        $names = null;
        $known = [];

        return function (string $field) use ($entries, &$names, &$known): array {
            $names ??= $this->listsOf($entries);
            $name = $names[$field] ?? null;

            return null === $name ? [] : $known[mb_strtolower($name)] ??= $this->lists->labels($name, CodeLists::MOST_CODES);
        };
    }

    /**
     * @param array<string, int> $entries
     *
     * @return array<string, string> FieldPlace::key() → name of its code list
     */
    private function listsOf(array $entries): array
    {
        $places = [];
        $ids = $this->fields->ids(array_values($entries));
        foreach ($entries as $key => $entry) {
            foreach ($ids[$entry] ?? [] as $name => $id) {
                $places[$id] = $key."\0".$name;
            }
        }
        $names = [];
        foreach ($this->lists->ofFields(array_keys($places)) as $id => $name) {
            $names[$places[$id]] = $name;
        }

        return $names;
    }

    /** @return array<string, int> Place::key() → entry, of those that the model names and the source has */
    public function entriesOf(Model $model, int $source): array
    {
        $places = $this->store->places($source);
        $views = $entries = [];
        foreach ($model->roles as $role) {
            $entry = $places[$role->entry->key()] ?? null;
            if (null !== $entry) {
                $entries[$role->entry->key()] = $entry;
            }
        }
        foreach ($this->entries->load(array_values($entries), false) as $view) {
            $views[$view->id] = null === $view->goneAt;
        }

        return array_filter($entries, static fn (int $entry): bool => $views[$entry] ?? false);
    }

    /**
     * @param array<string, int> $entries
     *
     * @return array<string, string> FieldPlace::key() → unit
     */
    private function units(array $entries): array
    {
        $units = [];
        $ids = $this->fields->ids(array_values($entries));
        $said = $this->said->of('field', array_merge([], ...array_map(array_values(...), array_values($ids))), ['unit']);
        foreach ($entries as $key => $entry) {
            foreach ($ids[$entry] ?? [] as $name => $id) {
                $unit = $said[$id]['unit'] ?? '';
                if ('' !== $unit) {
                    $units[$key."\0".$name] = $unit;
                }
            }
        }

        return $units;
    }

    /** @return array<string, string> business names by FieldPlace::key() */
    public function names(Model $model, int $source): array
    {
        $names = [];
        foreach ($this->entries->load(array_values($this->entriesOf($model, $source)), false) as $entry) {
            foreach ($entry->fields as $field) {
                if ('' !== $field->businessName) {
                    $names[(new FieldPlace($entry->schema, $entry->name, $field->name))->key()] = $field->businessName;
                }
            }
        }

        return $names;
    }

    /** @return array<string, true> fields in which nothing stands, as far as they were looked at, by FieldPlace::key() */
    public function empty(Model $model, int $source): array
    {
        $empty = [];
        $entries = $this->entriesOf($model, $source);
        $profiles = $this->profiles->all(array_values($entries));
        foreach ($entries as $place => $entry) {
            foreach (($profiles[$entry] ?? null)->profile->fields ?? [] as $name => $field) {
                if ($field->rows > 0 && 0 === $field->filled()) {
                    $empty[$place."\0".$name] = true;
                }
            }
        }

        return $empty;
    }

    /** @return array<string, string> FieldPlace::key() → meaning */
    public function meanings(Model $model, int $source): array
    {
        $meanings = [];
        foreach ($this->entries->load(array_values($this->entriesOf($model, $source)), false) as $entry) {
            foreach ($entry->fields as $field) {
                if ('' !== $field->meaning) {
                    $meanings[(new FieldPlace($entry->schema, $entry->name, $field->name))->key()] = $field->meaning;
                }
            }
        }

        return $meanings;
    }

    public function known(KeptModel $kept): Known
    {
        $model = $kept->model();
        $entries = $this->entriesOf($model, $kept->source->id());
        $averaged = [];
        $views = $this->entries->load(array_values($entries), false);
        $personal = $this->privacy->places($views);
        foreach ($views as $view) {
            foreach ($this->said->of('field', array_map(static fn ($field): int => $field->id, $view->fields), ['computedAs']) as $id => $said) {
                $how = $said['computedAs'] ?? '';
                foreach ($view->fields as $field) {
                    if ($field->id === $id && 1 === preg_match('/\b(?:avg|average|mean)\b/i', $how)) {
                        $averaged[(new FieldPlace($view->schema, $view->name, $field->name))->key()] = 'it is computed as '.mb_substr($how, 0, 60);
                    }
                }
            }
        }

        return new Known($personal, $averaged, $this->ends($model, $entries), $this->otherMeasures($kept));
    }

    /**
     * The fields of a model whose values are not shown, as "role\0field".
     *
     * @param array<string, string> $reasons as Known has them
     *
     * @return array<string, bool>
     */
    public static function hiddenFields(Ground $ground, array $reasons): array
    {
        $fields = [];
        foreach ($ground->model->roles as $role) {
            foreach ($ground->table($role->name)->columns ?? [] as $column) {
                if (isset($reasons[(new FieldPlace($role->entry->schema, $role->entry->name, $column->name))->key()])) {
                    $fields[$role->name."\0".$column->name] = true;
                }
            }
        }

        return $fields;
    }

    /**
     * @param array<string, int> $entries
     *
     * @return array<string, string>
     */
    private function ends(Model $model, array $entries): array
    {
        $ends = [];
        $views = $this->entries->load(array_values($entries));
        $all = [];
        foreach ($views as $view) {
            foreach ($view->joins as $join) {
                $all[$join->id] = $join;
            }
        }
        $figures = $this->evidences->of(array_keys($all));
        foreach ($model->joins as $join) {
            $registered = $this->registered($model, $join, $entries, $all);
            $observed = null === $registered ? null : ($figures[$registered->id] ?? null)?->figures?->cardinality();
            if (null !== $observed && $observed->to->many() && !$join->toEnd->many()) {
                $ends[$join->key()] = \sprintf(
                    'In the data, several rows of “%s” stand at one row of “%s”, though at most one is stated',
                    $join->to,
                    $join->from,
                );
            } elseif (null !== $observed && $observed->to !== $join->toEnd && End::One === $join->toEnd) {
                $ends[$join->key()] = \sprintf(
                    'In the data, “%s” leads to %s “%s”, though %s is stated',
                    $join->from,
                    $observed->to->inWords(),
                    $join->to,
                    $join->toEnd->inWords(),
                );
            }
        }

        return $ends;
    }

    /**
     * @param array<string, int>   $entries
     * @param array<int, JoinView> $all
     */
    private function registered(Model $model, ModelJoin $join, array $entries, array $all): ?JoinView
    {
        $place = static fn (string $role): string => $model->role($role)?->entry->key() ?? '';
        $pairs = array_map(null, $join->fields, $join->keys);
        foreach ($all as $one) {
            if ($one->fromId === ($entries[$place($join->from)] ?? 0) && $one->toId === ($entries[$place($join->to)] ?? 0) && $one->pairs == $pairs) {
                return $one;
            }
        }

        return null;
    }

    /** @return list<array{model: string, name: string, meaning: string, how: string}> */
    private function otherMeasures(KeptModel $kept): array
    {
        $measures = [];
        foreach ($this->models->shared() as $other) {
            foreach ($other->id() === $kept->id() ? [] : $other->model()->measures as $measure) {
                $measures[] = ['model' => $other->name, 'name' => $measure->name, 'meaning' => $measure->meaning, 'how' => ModelChecks::how($measure)];
            }
        }

        return $measures;
    }

    /**
     * Whether anything of a measure's fields, or of an attribute's, is personal. A count of people names nobody.
     *
     * @param array<string, string> $personal
     */
    public static function isPersonal(Ground $ground, PlanColumn $column, array $personal): bool
    {
        return self::isAnyPersonal($ground, null === $column->measure ? $column->fields : self::toldBy($ground, $column->measure), $personal);
    }

    /**
     * @param list<FieldUse>        $fields
     * @param array<string, string> $personal
     */
    private static function isAnyPersonal(Ground $ground, array $fields, array $personal): bool
    {
        foreach ($fields as $use) {
            $entry = $ground->model->role($use->role)?->entry;
            if (null !== $entry && isset($personal[(new FieldPlace($entry->schema, $entry->name, $use->column))->key()])) {
                return true;
            }
        }

        return false;
    }

    /** @return list<FieldUse> of whose values a figure tells: what is computed of others tells what those tell */
    private static function toldBy(Ground $ground, Measure $measure, int $depth = 0): array
    {
        if (!$measure->aggregation->isOfMeasures()) {
            return $measure->aggregation->tellsOfValues() && '' !== trim($measure->expression)
                ? $ground->formula($measure->fact, $measure->expression)->fields : [];
        }
        $fields = [];
        foreach ($depth > 8 ? [] : $ground->model->partsOf($measure) as $part) {
            $of = $ground->model->measure($part);
            $fields = null === $of ? $fields : [...$fields, ...self::toldBy($ground, $of, $depth + 1)];
        }

        return $fields;
    }

    /**
     * What of a question would tell somebody what is hidden from them, although it is not shown: a condition on it, or an order by it.
     *
     * @param array<string, string> $personal
     *
     * @return list<string> as the question names it
     */
    public static function toldBeside(Ground $ground, Trial $trial, array $personal): array
    {
        $question = new Question($ground, $trial);
        $told = [];
        foreach ($question->conditioned() as $level) {
            $formula = $ground->formula($level->role, $ground->model->attribute($level)->expression ?? '');
            if (self::isAnyPersonal($ground, $formula->fields, $personal)) {
                $told[] = $ground->names()->of($level);
            }
        }
        foreach ([...array_column($question->having, 0), ...array_column($question->order, 0)] as $what) {
            $measure = $what instanceof Figure ? $ground->names()->measureNamed($what->measure) : $what;
            if ($measure instanceof Measure && self::isAnyPersonal($ground, self::toldBy($ground, $measure), $personal)) {
                $told[] = $measure->name;
            }
        }

        return array_values(array_unique($told));
    }
}
