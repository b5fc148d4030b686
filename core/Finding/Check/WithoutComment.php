<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;

final class WithoutComment implements CatalogCheck
{
    public function name(): string
    {
        return 'no-comment';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Here the dictionary starts from nothing.';
    }

    public function mend(): string
    {
        return 'Describe it here; a draft is ready where its name says enough.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return Checked::have($count, 'table').' no comment in the database';
    }

    public function of(Catalog $catalog): iterable
    {
        foreach (Checked::tables($catalog) as $table) {
            if ('' === $table->comment) {
                yield new Finding('', 'No comment in the database', $table->place());
            }
        }
    }
}
