<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Core\Draft\Abbreviations;
use Fasti\Core\Draft\Differences;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Rule\OfVerb;
use Fasti\Core\Draft\Sameness;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Uncollected;
use Fasti\Register\Entries;
use Fasti\Register\EntryView;
use Fasti\Register\Fields;
use Fasti\Register\FieldView;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Register\Topic\JoinTopic;

/**
 * Makes drafts and keeps them: of a source as a whole, or of an entry whose page opens.
 *
 * @phpstan-import-type Of from DraftStore
 */
final readonly class Drafting
{
    private const MOST_PLACES = 24;
    private const AT_ONCE = 200;

    private const MOST_AT_ONCE = 3000;

    public function __construct(
        private Materials $materials,
        private DraftStore $store,
        private ShortForms $short,
        private Entries $entries,
        private Fields $fields,
    ) {
    }

    /** Of every entry of a source. */
    public function source(int $source, Progress $progress): int
    {
        return Uncollected::run(fn (): int => $this->all($source, $progress));
    }

    private function all(int $source, Progress $progress): int
    {
        $progress->at('gathering what is known', 0, 0);
        $gathered = $this->materials->ofSource($source);
        $ids = $gathered->own;
        $views = $gathered->entries;
        $this->short->learn(Abbreviations::learned($gathered->material));
        $drafts = new Drafts($this->store->weights());
        $made = 0;
        foreach (array_chunk(array_values(array_filter($ids, static fn (int $id): bool => isset($views[$id]))), self::AT_ONCE) as $i => $chunk) {
            $progress->at('making drafts', $i * self::AT_ONCE, \count($ids));
            $found = [];
            foreach ($chunk as $id) {
                $found[$id] = $this->make($drafts, $gathered->material, $views[$id]);
                $made += \count($found[$id][FieldTopic::NAME] ?? []);
            }
            $this->store->replace($this->undismissed($found));
        }

        return $made;
    }

    /**
     * Of entries that are looked at now; made anew where something they are made from has changed.
     *
     * @param list<int> $entries
     *
     * @return array<int, Of>
     */
    public function of(array $entries): array
    {
        foreach ($this->store->outdated($entries) as $id) {
            $view = $this->entries->one($id);
            // Of very many fields the job makes them, while nobody waits.
            if (null !== $view && null === $view->goneAt && \count($view->fields) <= self::MOST_AT_ONCE) {
                $material = $this->materials->around($view)->material;
                $this->store->replace($this->undismissed([$id => $this->make(new Drafts($this->store->weights()), $material, $view)]));
            }
        }

        return $this->store->of($entries);
    }

    /**
     * Where else the same may be said: fields of the same name of which nobody has said it.
     *
     * @return list<OtherPlace> those where nothing differs first, then the surest
     */
    public function elsewhere(EntryView $entry, FieldView $field, string $property, string $text): array
    {
        $namesakes = array_merge(...array_values($this->fields->alike([$field->id], 3 * self::MOST_PLACES)) ?: [[]]);
        $gathered = $this->materials->around($entry, array_column($namesakes, 'entry'));
        $here = $gathered->material->field($entry->id, $field->column);
        $found = [];
        foreach ($namesakes as $at) {
            $view = $gathered->entries[$at->entry] ?? null;
            if (null === $view || $at->field === $field->id) {
                continue;
            }
            foreach ($view->presentFields() as $other) {
                $there = $other->id === $at->field ? $gathered->material->field($view->id, $other->column) : null;
                $sure = null !== $there && '' === $there->said->of($property) ? Sameness::of($there, $entry->id, $field->name, $property, $text) : 0.0;
                if (null !== $there && $sure > 0.0) {
                    $schema = $view->schema !== $entry->schema ? $view->schema.'.' : '';
                    $found[] = new OtherPlace($other->id, $schema.$view->name.'.'.$other->name, $sure, Differences::of($here, $there, $text));
                }
            }
        }
        usort($found, static fn (OtherPlace $a, OtherPlace $b): int => [$b->isTicked(), $b->sure, $a->name] <=> [$a->isTicked(), $a->sure, $b->name]);

        return \array_slice($found, 0, self::MOST_PLACES);
    }

    /** The draft that a field would have if nobody had written its meaning. */
    public function without(int $entry, int $field): ?Draft
    {
        $view = $this->entries->one($entry);
        if (null === $view) {
            return null;
        }
        $material = $this->materials->around($view)->material;
        foreach ($view->presentFields() as $one) {
            if ($one->id === $field) {
                $of = $material->field($view->id, $one->column);

                return (new Drafts($this->store->weights()))->ofField($of->unsaid())['meaning'][0] ?? null;
            }
        }

        return null;
    }

    /** @return Of */
    private function make(Drafts $drafts, Material $material, EntryView $view): array
    {
        $found = [EntryTopic::NAME => [$view->id => $drafts->ofEntry($material->entry($view->id))]];
        foreach ($view->presentFields() as $field) {
            $found[FieldTopic::NAME][$field->id] = $drafts->ofField($material->field($view->id, $field->column));
        }
        foreach ($view->joins as $join) {
            if ($join->out && $join->kind->counts()) {
                foreach (OfVerb::of($join->fromName, array_column($join->pairs, 0), $join->toName, $view->facts->primaryKey->columns ?? []) as $draft) {
                    if ('' === ('verb' === $draft->property ? $join->verb : $join->verbBack)) {
                        $found[JoinTopic::NAME][$join->id][$draft->property] = [$draft];
                    }
                }
            }
        }

        return $found;
    }

    /**
     * @param array<int, Of> $found by entry
     *
     * @return array<int, Of> without what somebody has dismissed
     */
    private function undismissed(array $found): array
    {
        foreach ([EntryTopic::NAME, FieldTopic::NAME, JoinTopic::NAME] as $topic) {
            $ids = array_merge(...array_map(static fn (array $of): array => array_keys($of[$topic] ?? []), array_values($found)));
            $dismissed = $this->store->dismissed($topic, $ids);
            foreach ([] === $dismissed ? [] : $found as $entry => $topics) {
                foreach (array_intersect_key($topics[$topic] ?? [], $dismissed) as $id => $properties) {
                    foreach ($properties as $property => $of) {
                        $without = $dismissed[$id][$property] ?? [];
                        $found[$entry][$topic][$id][$property] = array_values(
                            array_filter($of, static fn (Draft $draft): bool => !isset($without[$draft->evidence()])),
                        );
                    }
                }
            }
        }

        return $found;
    }
}
