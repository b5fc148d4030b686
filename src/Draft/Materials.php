<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\CodeList\CodeLists;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Draft\Abbreviations;
use Fasti\Core\Draft\Lead;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Said;
use Fasti\Core\Join\Verbs;
use Fasti\Lineage\Lineages;
use Fasti\Profile\Profiles;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\Fields;
use Fasti\Register\FieldView;
use Fasti\Register\JoinKind;
use Fasti\Register\JoinView;
use Fasti\Source\SourceStore;
use Fasti\Term\Terms;
use Fasti\Text\SaidStore;

/** Gathers what drafts are made from: of a whole source, or of one entry and whatever has to do with it. */
final readonly class Materials
{
    private const LIKELY = 0.5;
    private const MOST_ELSEWHERE = 400;
    /** Of an entry whose page opens: so many in all, of those that it joins, and of each of its fields' namesakes. */
    private const MOST_AROUND = 10;
    private const MOST_JOINED = 6;
    private const MOST_ALIKE = 2;
    /** Longer lists are none that a field's few values are compared with. */
    private const MOST_CODES = 200;

    public function __construct(
        private Entries $entries,
        private EntryStore $store,
        private Fields $fields,
        private SaidStore $said,
        private Profiles $profiles,
        private SourceStore $sources,
        private CodeLists $lists,
        private Terms $terms,
        private ShortForms $short,
        private Lineages $lineages,
    ) {
    }

    public function ofSource(int $source): Gathering
    {
        $ids = $this->store->ids($source);

        return $this->of([...$ids, ...$this->store->describedElsewhere($source, self::MOST_ELSEWHERE)], null, $ids);
    }

    /** @param list<int> $besides other entries that are to be among them */
    public function around(EntryView $entry, array $besides = []): Gathering
    {
        $around = [$entry->id, ...$besides];
        foreach ($entry->joins as $join) {
            $around[] = $join->otherId();
        }
        $around = \array_slice(array_values(array_unique($around)), 0, self::MOST_JOINED + \count($besides));
        // What nobody has described elsewhere tells nothing.
        $alike = $this->fields->alike(array_map(static fn (FieldView $field): int => $field->id, $entry->presentFields()), self::MOST_ALIKE, false);
        foreach ($alike as $fields) {
            foreach ($fields as $field) {
                $around[] = $field->entry;
            }
        }

        return $this->of(\array_slice(array_values(array_unique($around)), 0, self::MOST_AROUND + \count($besides)), new Abbreviations($this->short->known()));
    }

    /**
     * @param list<int> $ids
     * @param list<int> $own
     */
    private function of(array $ids, ?Abbreviations $abbreviations, array $own = []): Gathering
    {
        $views = $tables = $dialects = $leads = $texts = $places = $profiles = $engines = [];
        foreach (array_chunk($ids, 200) as $chunk) {
            foreach ($this->entries->load($chunk) as $view) {
                if (null === $view->goneAt) {
                    $views[$view->id] = $view;
                }
            }
            foreach ($this->profiles->all($chunk) as $id => $profiled) {
                $profiles[$id] = $profiled->profile;
            }
        }
        $unit = $this->said->all('field', 'unit');
        $allowed = $this->said->all('field', 'allowed');
        foreach ($views as $id => $view) {
            $present = $view->presentFields();
            $tables[$id] = $view->facts->with(columns: array_map(static fn (FieldView $field): Column => $field->column, $present));
            $dialects[$id] = Dialects::of($engines[$view->sourceId] ??= $this->sources->engine($view->sourceId));
            $texts[$id][''] = new Said($view->businessName, $view->meaning, $view->grain);
            foreach ($present as $field) {
                $texts[$id][$field->name] = new Said($field->businessName, $field->meaning, '', $unit[$field->id] ?? '', $allowed[$field->id] ?? '',
                    $field->personal);
                $places[$field->id] = [$id, $field->name];
            }
            foreach ($view->joins as $join) {
                if ($join->out && isset($views[$join->toId]) && self::counts($join)) {
                    $leads[$id][] = self::lead($join, $view);
                }
            }
        }
        $isView = static fn (EntryView $view): bool => $view->facts->kind->isView();
        foreach ($this->lineages->single(array_keys(array_filter($views, $isView))) as $field => $from) {
            if (isset($places[$field], $places[$from])) {
                [$id, $name] = $places[$field];
                $origins[$id][$name] = $places[$from];
            }
        }

        return new Gathering(new Material(
            $tables, $dialects, $leads, $texts, $profiles, $this->lists->codesOfAll(self::MOST_CODES), $this->short->known(), $origins ?? [],
            $this->terms->definitions(), $abbreviations,
        ), $views, $own);
    }

    private static function counts(JoinView $join): bool
    {
        return $join->kind->counts() || JoinKind::Proposed === $join->kind && ($join->confidence ?? 0.0) >= self::LIKELY;
    }

    private static function lead(JoinView $join, EntryView $view): Lead
    {
        [$verb, $back] = '' !== $join->verb || '' !== $join->verbBack ? [$join->verb, $join->verbBack]
            : Verbs::of($join->fromName, array_column($join->pairs, 0), $join->toName, $view->facts->primaryKey->columns ?? []);

        return new Lead($join->toId, $join->pairs, $verb, $back, $join->kind->counts() ? 1.0 : $join->confidence ?? 0.5, $join->id);
    }
}
