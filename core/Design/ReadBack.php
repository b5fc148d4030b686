<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\TableDrift;
use Fasti\Core\Script\ScriptReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;

/** Holds what came into being against what was designed. */
final class ReadBack
{
    /**
     * A script as a catalog, with expressions as its engine would write them.
     *
     * @throws SourceError
     */
    public static function script(string $sql, Dialect $dialect, string $schema): Catalog
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'fasti-script-');
        try {
            file_put_contents($path, $sql);

            return (new ScriptReader($path, $dialect->grammar(), $schema))->read(new Choice(), new SilentProgress());
        } finally {
            @unlink($path);
        }
    }

    /** @return list<string> in sentences; none where both are the same */
    public static function differences(Catalog $designed, Catalog $found): array
    {
        $meanings = Dialects::ofCatalog($found)->capabilities()->meanings;
        $bare = static fn (Catalog $catalog): Catalog => $catalog->with(tables: array_map(
            static fn (Table $table): Table => self::comparable($table, $meanings),
            $catalog->tables,
        ));
        $words = [];
        foreach (Compare::catalogs($bare($designed), $bare($found)) as $drift) {
            $words = [...$words, ...self::words($drift)];
        }

        return $words;
    }

    /** Without what a server adds of the moment, or says of views in its own way. */
    private static function comparable(Table $table, bool $meanings): Table
    {
        $table = $table->with(rowEstimate: null, sizeBytes: null, comment: $meanings ? $table->comment : '');
        $columns = [];
        foreach ($table->columns as $column) {
            $column = $column->with(type: TypeText::folded($column->type));
            $columns[] = $table->kind->isView() ? $column->with(comment: '', nullable: true, default: null, collation: null, charset: null)
                : $column->with(comment: $meanings ? $column->comment : '');
        }

        return $table->kind->isView() ? $table->with(columns: $columns, definition: '', storage: null, collation: null) : $table->with(columns: $columns);
    }

    /** @return list<string> */
    private static function words(TableDrift $drift): array
    {
        $name = $drift->table()->name;

        return match ($drift->change) {
            Fate::New => [\sprintf('%s came into being, though it is not in the design.', $name)],
            Fate::Gone => [\sprintf('%s did not come into being.', $name)],
            default => [
                ...array_map(static fn (string $words): string => \sprintf('%s: %s.', $name, $words), $drift->words),
                ...array_merge(...array_map(
                    static fn ($column): array => array_map(
                        static fn (string $words): string => \sprintf('%s.%s: %s.', $name, $column->name(), $words),
                        [] === $column->words ? [match ($column->change) {
                            Fate::New => 'it came into being, though it is not in the design',
                            Fate::Gone => 'it did not come into being',
                            default => 'it differs',
                        }] : $column->words,
                    ),
                    $drift->columns,
                )),
            ],
        };
    }
}
