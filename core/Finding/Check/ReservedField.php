<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\ReservedWords;
use Fasti\Core\Finding\Severity;

final class ReservedField implements CatalogCheck
{
    public function name(): string
    {
        return 'reserved-word-field';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Queries fail unless they quote it.';
    }

    public function mend(): string
    {
        return 'Quote it in every query.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field')." the reserved word “{$group}” as a name";
    }

    public function of(Catalog $catalog): iterable
    {
        foreach (Checked::tables($catalog) as $table) {
            foreach ($table->columns as $column) {
                if (ReservedWords::has($column->name)) {
                    yield new Finding(strtolower($column->name), \sprintf('“%s” is a reserved word', $column->name), $table->place(), $column->name);
                }
            }
        }
    }
}
