<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;

/** References to tables that are not there: some engines keep them without a word. */
final class Dangling
{
    /**
     * @param list<Table> $tables
     * @param Inventory   $all    of the source, whatever was chosen of it; of schemas that it does not show nothing is said
     *
     * @return list<string> in sentences
     */
    public static function notes(array $tables, Inventory $all): array
    {
        $known = [];
        foreach ($all->schemas as $schema => $objects) {
            // Which engine folds names, and where, does not matter here: a table by another case is no missing one.
            foreach (array_keys($objects) as $name) {
                $known[mb_strtolower((string) $schema)][mb_strtolower((string) $name)] = true;
            }
        }
        $notes = [];
        foreach ($tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $far = $key->references;
                $schema = mb_strtolower($far->schema);
                if (isset($known[$schema]) && !isset($known[$schema][mb_strtolower($far->table)])) {
                    $notes[] = \sprintf('%s refers to a table “%s” that is not there.', $table->name, new Place($far->schema, $far->table));
                }
            }
        }

        return array_values(array_unique($notes));
    }
}
