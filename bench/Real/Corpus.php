<?php

declare(strict_types=1);

namespace Fasti\Bench\Real;

use Fasti\Bench\Joins\Fit;
use Fasti\Bench\Joins\Known;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;

/** Schemas of real programs, read once and kept in var/real, with what a reader said of joins that they do not declare. */
final class Corpus
{
    /** Of the largest, the variants that rename its keys and its tables are enough. */
    private const LARGE = 200;
    private const OF_LARGE = ['short', 'prefix', 'ids'];

    /** @var array<string, array<string, bool>> schema → join → whether it is true */
    private array $judged = [];

    public function __construct(private readonly string $root)
    {
        foreach (file(__DIR__.'/judged.tsv', \FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            if ('' !== $line && '#' !== $line[0]) {
                [$schema, $join, $true] = explode("\t", $line);
                $this->judged[$schema][$join] = 'yes' === $true;
            }
        }
    }

    public function folder(): string
    {
        return $this->root.'/var/real';
    }

    /** @return list<string> those that have been read */
    public function names(): array
    {
        return array_map(static fn (string $file): string => basename($file, '.json'), glob($this->folder().'/catalogs/*.json') ?: []);
    }

    public function keep(string $name, Catalog $catalog): void
    {
        file_put_contents($this->folder()."/catalogs/$name.json", json_encode(OpenForm::of($catalog), \JSON_THROW_ON_ERROR));
    }

    public function catalog(string $name): Catalog
    {
        $text = (string) file_get_contents($this->folder()."/catalogs/$name.json");
        $data = json_decode($text, true, 512, \JSON_THROW_ON_ERROR);

        return self::withoutIndexes(OpenForm::read(Catalog::class, \is_array($data) ? $data : []));
    }

    public function known(string $name): Known
    {
        $catalog = $this->catalog($name);
        $truth = Fit::truth($catalog);
        foreach (array_filter($this->judged($name)) as $join => $true) {
            $truth[(string) preg_replace('/^([^.>]*)\.([^>]*)>([^.:]*)\.(.*)$/', "$1\0$2>$3\0$4", $join)] = true;
        }

        return new Known($name, $catalog, $truth, true);
    }

    /** @return array<string, Known> rule → the schema as others would have written it */
    public function variants(string $name): array
    {
        $catalog = $this->catalog($name);
        $variants = [];
        foreach (\count($catalog->tables) > self::LARGE ? self::OF_LARGE : Variants::RULES as $rule) {
            $variant = Variants::of($catalog, $rule);
            $variants[$rule] = new Known("$name, $rule", $variant, Fit::truth($variant), true);
        }

        return $variants;
    }

    /** @return array<string, bool> join → whether a reader found it true */
    public function judged(string $name): array
    {
        return $this->judged[$name] ?? [];
    }

    /** @return array<string, array{string, string}> `table.field` → the mark of the text that was read, and what was said of it */
    public function judgedDrafts(string $name): array
    {
        $judged = [];
        foreach (file(__DIR__.'/judged-drafts.tsv', \FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            $parts = explode("\t", $line);
            if ($name === $parts[0] && \count($parts) > 3) {
                $judged[$parts[1]] = [$parts[2], $parts[3]];
            }
        }

        return $judged;
    }

    /** Indexes that are there for the declared references would give them away. */
    private static function withoutIndexes(Catalog $catalog): Catalog
    {
        return $catalog->with(tables: array_map(static function (Table $table): Table {
            $leading = array_map(static fn ($key): array => $key->columns, $table->foreignKeys);

            return $table->with(indexes: array_values(array_filter($table->indexes, static fn (Index $index): bool => $index->unique
                || !\in_array(array_map(static fn (IndexPart $part): string => $part->column, $index->parts), $leading, true))));
        }, $catalog->tables));
    }
}
