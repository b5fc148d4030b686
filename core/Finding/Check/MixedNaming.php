<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;

final class MixedNaming implements CatalogCheck
{
    public function name(): string
    {
        return 'mixed-naming';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'Who writes a query has to look each name up.';
    }

    public function mend(): string
    {
        return 'Say in the register which style is meant; new names follow it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'table').' names in another style than the rest of '.('' === $group ? 'the schema' : $group);
    }

    /** Of a schema, so much is written alike before anything counts as different. */
    private const USUAL = 0.6;
    private const SHOWN = 4;

    public function of(Catalog $catalog): iterable
    {
        $styles = $counts = [];
        foreach (Checked::tables($catalog) as $i => $table) {
            foreach ([['', $table->name], ...array_map(static fn ($column): array => [$column->name, $column->name], $table->columns)] as [$field, $name]) {
                $style = self::style($name);
                if ('' !== $style) {
                    $styles[$i][$style][] = '' === $field ? 'the table itself' : $field;
                    $counts[$table->schema][$style] = ($counts[$table->schema][$style] ?? 0) + 1;
                }
            }
        }
        foreach (Checked::tables($catalog) as $i => $table) {
            $of = $counts[$table->schema] ?? [];
            arsort($of);
            $usual = (string) array_key_first($of);
            if ([] === $of || $of[$usual] < self::USUAL * array_sum($of)) {
                continue;
            }
            $others = array_merge(...array_values(array_diff_key($styles[$i] ?? [], [$usual => true])) ?: [[]]);
            if ([] !== $others) {
                $more = \count($others) - self::SHOWN;
                yield new Finding($table->schema, \sprintf(
                    '%s%s not written as most names are, %s',
                    implode(', ', \array_slice($others, 0, self::SHOWN)),
                    ($more > 0 ? " and $more more" : '').(1 === \count($others) ? ' is' : ' are'),
                    $usual,
                ), $table->place());
            }
        }
    }

    /** Names of one word in small letters go with every style. */
    private static function style(string $name): string
    {
        return match (true) {
            1 === preg_match('/^[a-z][a-z0-9]*$/', $name) => '',
            1 === preg_match('/^[a-z][a-z0-9]*(?:_[a-z0-9]+)+_?$/', $name) => 'in small letters with underscores',
            1 === preg_match('/^[A-Z][A-Z0-9]*(?:_[A-Z0-9]+)*$/', $name) => 'in capitals',
            1 === preg_match('/^[a-z]+[a-z0-9]*(?:[A-Z][a-z0-9]*)+$/', $name) => 'run together, the first letter small',
            1 === preg_match('/^(?:[A-Z][a-z0-9]*)+$/', $name) => 'run together, each word with a capital',
            1 === preg_match('/[^A-Za-z0-9_]/', $name) => 'with signs or blanks',
            default => 'in a mixture',
        };
    }
}
