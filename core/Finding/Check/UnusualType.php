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
    /** Types that few schemas need. Their presence is usually a trace of something older, or of a special case. */
    private const UNUSUAL = [
        'tinyblob', 'blob', 'mediumblob', 'longblob', 'set', 'bit', 'float', 'year', 'geometry', 'point', 'linestring', 'polygon',
        'multipoint', 'multilinestring', 'multipolygon', 'geometrycollection',
    ];

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
                $name = $dialect->typeOf($column)->name;
                if (\in_array($name, self::UNUSUAL, true)) {
                    yield new Finding($name, 'An unusual type: '.$name, $table->place(), $column->name);
                }
            }
        }
    }
}
