<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Drift\DriftItem;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Lineage\Dependants;
use Fasti\Register\ApplyCatalog;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\RegisterCatalog;
use Fasti\Register\Renaming;

/**
 * Brings what a steward accepted of a drift into the register, inside the caller's transaction. A rename keeps the entry or
 * field that it is about, so every text, and its history, moves along. What is not accepted stays as it was and shows again
 * in the next survey.
 */
final readonly class AcceptDrift
{
    public function __construct(
        private ApplyCatalog $apply,
        private RegisterCatalog $register,
        private EntryStore $entries,
        private Renaming $renaming,
        private Doubts $doubts,
        private Dependants $dependants,
        private Fields $fields,
    ) {
    }

    /**
     * @param list<DriftItem>          $items
     * @param array<int, string>       $answers number of the item → what is answered; without one it is left as it is
     * @param array<int, list<string>> $apart   number of the item → new names of columns whose rename was refused
     *
     * @return array<string, int> how many entries, by what became of them
     */
    public function accept(int $sourceId, Catalog $catalog, Choice $choice, array $items, array $answers, array $apart, Account $account): array
    {
        [$before] = $this->register->of($sourceId);
        $held = [];
        $changes = new Changes();
        foreach ($items as $i => $item) {
            $place = $item->place();
            $from = $item->from;
            $answer = $answers[$i] ?? DriftItem::NO;
            if (DriftItem::NO === $answer) {
                foreach (array_filter([$place, $from]) as $kept) {
                    $held[$kept->key()] = true;
                }
                continue;
            }
            if (null !== $from && DriftItem::YES === $answer) {
                $this->renaming->entry($sourceId, $from, $place, $account);
                $changes->renamed($from->name, $place->name);
            }
            $was = $before->table($from->schema ?? $place->schema, $from->name ?? $place->name);
            $is = $catalog->table($place->schema, $place->name);
            if (null !== $was && null !== $is && DriftItem::APART !== $answer) {
                $changes->changed($was, $is, $this->renameFields($sourceId, $is, $item, $apart[$i] ?? [], $account));
            } elseif (Fate::Gone === $item->change && null !== $was) {
                $changes->lost($was);
            }
        }
        // What depends on what is read anew with the catalog: it is asked before.
        $made = $this->dependants->reasons($this->touched($sourceId, $changes));
        $counts = $this->apply->apply($sourceId, $catalog, $choice, new SilentProgress(), $held);
        $this->doubts->raise($sourceId, $catalog, $changes, $made);

        return $counts;
    }

    /** @return array<int, string> field → what has become of it */
    private function touched(int $source, Changes $changes): array
    {
        $touched = [];
        foreach ($changes->fields as $place => $fields) {
            $entry = $this->entries->at($source, Place::ofKey($place));
            $ids = null === $entry ? [] : $this->fields->ids([$entry])[$entry] ?? [];
            foreach ($fields as $name => $what) {
                if (isset($ids[$name])) {
                    $touched[$ids[$name]] = $what;
                }
            }
        }

        return $touched;
    }

    /**
     * @param list<string> $refused
     *
     * @return array<string, string> old name → new name
     */
    private function renameFields(int $source, Table $table, DriftItem $item, array $refused, Account $account): array
    {
        $names = [];
        foreach ($item->columns as $column) {
            if (Fate::Renamed === $column->change && !\in_array($column->name, $refused, true)) {
                $names[$column->from] = $column->name;
            }
        }
        $entry = [] === $names ? null : $this->entries->at($source, $table->place());

        return null === $entry ? [] : $this->renaming->fields($entry, $names, $account);
    }
}
