<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Survey;

use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Survey\Dangling;
use Fasti\Core\Survey\Inventory;
use PHPUnit\Framework\TestCase;

final class DanglingTest extends TestCase
{
    public function testReferencesToWhatIsNotThereAreSaid(): void
    {
        $to = static fn (string $schema, string $table): ForeignKey => new ForeignKey(null, ['x'], new Reference($schema, $table, ['id']));
        $tables = [new Table(
            'main',
            'visit',
            TableType::Table,
            foreignKeys: [$to('main', 'station'), $to('main', 'Weir'), $to('main', 'gone.by'), $to('closed', 'person')],
        )];
        $all = new Inventory('', ['main' => ['visit' => 'table', 'station' => 'table', 'weir' => 'table'], 'archive' => []]);

        // Of a schema that the account may not see, nobody knows what is in it.
        self::assertSame(['visit refers to a table “main."gone.by"” that is not there.'], Dangling::notes($tables, $all));
    }
}
