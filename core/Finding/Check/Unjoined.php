<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;

final class Unjoined implements CatalogCheck
{
    public function name(): string
    {
        return 'unjoined';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'No foreign key leads to it or from it, so how its rows find others is known only to people.';
    }

    public function mend(): string
    {
        return 'State its joins, or look at those that are proposed from the data.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return Checked::have($count, 'table').' no declared join';
    }

    public function of(Catalog $catalog): iterable
    {
        $joined = [];
        foreach (Checked::tables($catalog) as $table) {
            foreach ($table->foreignKeys as $key) {
                $joined[$table->place()->key()] = $joined[$key->references->place()->key()] = true;
            }
        }
        foreach (Checked::tables($catalog) as $table) {
            if (!isset($joined[$table->place()->key()])) {
                yield new Finding('', 'No declared join', $table->place());
            }
        }
    }
}
