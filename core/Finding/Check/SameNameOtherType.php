<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;

/** The same name for fields of different types. The most frequent type is the usual one; the places that differ need a look. */
final class SameNameOtherType implements CatalogCheck
{
    public function name(): string
    {
        return 'same-name-other-type';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'The same name with different types often hides two meanings, or breaks a join.';
    }

    public function mend(): string
    {
        return 'Say in the meaning of each what differs, or bring the types together.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : \sprintf('“%s” has another type in %s than elsewhere', $group, Amount::of($count, 'table'));
    }

    public function of(Catalog $catalog): iterable
    {
        $dialect = Dialects::ofCatalog($catalog);
        $uses = [];
        foreach (Checked::tables($catalog) as $table) {
            foreach ($table->columns as $column) {
                $uses[strtolower($column->name)][self::comparable($dialect->typeOf($column))][] = [$table->place(), $column->name, $column->type];
            }
        }
        foreach ($uses as $name => $byType) {
            if (\count($byType) > 1) {
                yield from self::others((string) $name, $byType);
            }
        }
    }

    /**
     * @param array<string, non-empty-list<array{Place, string, string}>> $byType
     *
     * @return iterable<Finding>
     */
    private static function others(string $name, array $byType): iterable
    {
        uasort($byType, static fn (array $a, array $b): int => \count($b) <=> \count($a));
        $usual = reset($byType) ?: [];
        foreach (\array_slice($byType, 1) as $uses) {
            foreach ($uses as [$place, $field, $type]) {
                $elsewhere = 1 === \count($usual) ? $usual[0][0]->name : Amount::of(\count($usual), 'table');
                yield new Finding(
                    $name,
                    \sprintf('“%s” is %s in %s, but %s in %s', $name, $usual[0][2] ?? '', $elsewhere, $type, $place->name),
                    $place,
                    $field,
                );
            }
        }
    }

    /** Lengths of texts, sizes and signs of whole numbers differ for good reasons and join well; a precision does not. */
    private static function comparable(Type $type): string
    {
        return match (true) {
            $type->isPlain(TypeFamily::Whole) => 'whole number',
            $type->isPlain(TypeFamily::Text) && [] === $type->members => 'text',
            default => strtolower($type->written),
        };
    }
}
