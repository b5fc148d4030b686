<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;

final class UnusualType implements CatalogCheck
{
    public function name(): string
    {
        return 'unusual-type';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Tools differ in how they read such types; say what the field holds.';
    }

    public function mend(): string
    {
        return 'Say in its meaning how the values are written.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return Checked::have($count, 'field').' an unusual type ('.$group.')';
    }

    public function of(Catalog $catalog): iterable
    {
        $dialect = Dialects::ofCatalog($catalog);
        foreach (Checked::tables($catalog) as $table) {
            foreach ($table->columns as $column) {
                $type = $dialect->typeOf($column);
                $why = $dialect->unusual($type);
                if ('' !== $why) {
                    yield new Finding($type->name, "An unusual type: $type->name ($why)", $table->place(), $column->name);
                }
            }
        }
    }
}
