<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;

final class TypesDifferAcrossJoin implements CatalogCheck
{
    public function name(): string
    {
        return 'types-differ-across-join';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'The database converts one of them row by row, uses no index for it, and may find nothing where the texts are written otherwise.';
    }

    public function mend(): string
    {
        return 'Bring the types at both ends together.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'join').' different types at both ends';
    }

    public function of(Catalog $catalog): iterable
    {
        $dialect = Dialects::ofCatalog($catalog);
        $tables = [];
        foreach ($catalog->tables as $table) {
            $tables[$table->place()->key()] = $table;
        }
        foreach (Checked::tables($catalog) as $table) {
            foreach ($table->foreignKeys as $key) {
                $there = $tables[$key->references->place()->key()] ?? null;
                foreach ($key->columns as $i => $name) {
                    $near = $table->column($name);
                    $far = $there?->column($key->references->columns[$i] ?? '');
                    if (null !== $near && null !== $far && self::differ($dialect->typeOf($near), $dialect->typeOf($far))) {
                        yield new Finding('', \sprintf(
                            '%s is %s, but %s.%s, to which it leads, is %s', $name, $dialect->typeInWords($near), $there->name, $far->name,
                            $dialect->typeInWords($far),
                        ), $table->place(), $name);
                    }
                }
            }
        }
    }

    private static function differ(Type $near, Type $far): bool
    {
        $numbers = $near->family->isNumeric() && $far->family->isNumeric();
        if ($near->family !== $far->family && !$numbers) {
            return !\in_array(TypeFamily::Other, [$near->family, $far->family], true);
        }
        if ($numbers) {
            return $near->family !== $far->family || null !== $near->bits && null !== $far->bits && $near->bits < $far->bits;
        }

        return TypeFamily::Text === $near->family && null !== $near->length && null !== $far->length && $near->length < $far->length;
    }
}
