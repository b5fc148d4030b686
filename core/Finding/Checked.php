<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Wording\Amount;

/** What checks over catalogs have in common. */
final class Checked
{
    public static function is(Table $table): bool
    {
        return TableType::Table === $table->kind && !$table->planned;
    }

    /** @return list<Table> those that hold rows of their own */
    public static function tables(Catalog $catalog): array
    {
        return array_values(array_filter($catalog->tables, self::is(...)));
    }

    /** "1 table has", "3 tables have" */
    public static function have(int $count, string $noun): string
    {
        return Amount::of($count, $noun).(1 === $count ? ' has' : ' have');
    }
}
