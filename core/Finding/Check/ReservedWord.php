<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\ReservedWords;
use Fasti\Core\Finding\Severity;

final class ReservedWord implements CatalogCheck
{
    public function name(): string
    {
        return 'reserved-word';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Queries fail unless they quote it.';
    }

    public function mend(): string
    {
        return 'Quote it in every query, or rename the table when it can be changed.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return Checked::have($count, 'table').' a reserved word as a name';
    }

    public function of(Catalog $catalog): iterable
    {
        foreach (Checked::tables($catalog) as $table) {
            if (ReservedWords::has($table->name)) {
                yield new Finding('', 'A reserved word as a name', $table->place());
            }
        }
    }
}
