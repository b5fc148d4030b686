<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;

final class WithoutKey implements CatalogCheck
{
    public function name(): string
    {
        return 'no-primary-key';
    }

    public function severity(): Severity
    {
        return Severity::Fault;
    }

    public function why(): string
    {
        return 'Nothing says what makes a row unique, so the same row may stand twice.';
    }

    public function mend(): string
    {
        return 'Say which fields tell rows apart, and declare them as its key.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return Checked::have($count, 'table').' no primary key';
    }

    public function of(Catalog $catalog): iterable
    {
        foreach (Checked::tables($catalog) as $table) {
            if (null === $table->primaryKey) {
                yield new Finding('', 'No primary key', $table->place());
            }
        }
    }
}
