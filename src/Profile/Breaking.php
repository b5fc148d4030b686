<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\CodeList\CodeLists;
use Fasti\Core\Dialect\Dialects;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\SourceStore;

/** Statements that find the rows with values that are not allowed. */
final readonly class Breaking
{
    public function __construct(
        private CodeLists $lists,
        private Fields $fields,
        private RegisterCatalog $register,
        private SourceStore $sources,
        private EntryStore $entries,
    ) {
    }

    /** @return ?string null where nothing is said of the field, or its engine cannot tell */
    public function sql(int $field): ?string
    {
        [$allowed] = $this->lists->allowed([$field]);
        $at = $this->fields->placed([$field])[$field] ?? null;
        $table = null === $at ? null : $this->register->entry($at->entry);
        $column = null === $at ? null : $table?->column($at->place->column);
        if (!isset($allowed[$field]) || null === $at || null === $table || null === $column) {
            return null;
        }
        $dialect = Dialects::of($this->sources->engine($this->entries->sources([$at->entry])[$at->entry] ?? 0));
        $sql = $dialect->profiling();
        $breaks = null === $sql ? '' : $allowed[$field]->breaks($sql, $column, $dialect->typeOf($column)->family);

        return null === $sql || '' === $breaks ? null : "SELECT * FROM {$sql->from($table)}\nWHERE $breaks;";
    }
}
