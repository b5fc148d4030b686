<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Address;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Script\ScriptReader;
use Fasti\Core\Sheet\Sheets;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Enumeration;

/**
 * Reads files, one or a folder of them: scripts of SQL, catalog sheets, collections of documents, JSON Schemas and CSV.
 * Which a file is shows in its ending, and is checked against what it holds.
 */
final class FilesReader implements Reader
{
    public const SCHEMA = 'files';
    private const ENDINGS = ['sql' => 'script', 'ddl' => 'script', 'csv' => 'csv', 'tsv' => 'csv', 'json' => 'json', 'jsonl' => 'json', 'ndjson' => 'json'];

    /** @var array<string, Reader> */
    private array $scripts = [];

    /** @param list<string> $paths */
    private function __construct(private readonly array $paths, private readonly ?Grammar $dialect)
    {
    }

    /**
     * @param string $path    of a file or of a folder, whose files count with those of its folders
     * @param string $dialect of scripts, or '' to work it out
     *
     * @throws SourceError
     */
    public static function open(string $path, string $dialect = ''): self
    {
        $known = '' === $dialect ? null : Dialects::named($dialect)?->grammar() ?? throw new SourceError(
            \sprintf('“%s” is no dialect that Fasti reads.', $dialect),
            'Name '.Enumeration::of([...array_keys(Dialects::grammars()), 'standard'], 'or').'.',
        );
        if (!file_exists($path)) {
            throw new SourceError(
                \sprintf('There is no file or folder “%s”.', $path),
                'Check the path, or give a connection URL such as '.Address::example().'.',
            );
        }
        $paths = [];
        if (is_dir($path)) {
            /** @var \SplFileInfo $file */
            foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($path, \FilesystemIterator::SKIP_DOTS)) as $file) {
                if (isset(self::ENDINGS[strtolower($file->getExtension())]) && $file->isFile()) {
                    $paths[] = $file->getPathname();
                }
            }
            sort($paths);
            if ([] === $paths) {
                throw new SourceError(
                    \sprintf('The folder “%s” holds no file that Fasti reads.', basename($path)),
                    'It reads files ending in .sql, .csv, .tsv, .json and .jsonl.',
                );
            }
        } elseif (!isset(self::ENDINGS[strtolower(pathinfo($path, \PATHINFO_EXTENSION))])) {
            throw new SourceError(
                \sprintf('The ending of “%s” does not say what it is.', basename($path)),
                'Fasti reads files ending in .sql, .csv, .tsv, .json and .jsonl, and packed ones ending in .zip or .gz.',
            );
        } else {
            $paths[] = $path;
        }

        return new self($paths, $known);
    }

    public function inventory(): Inventory
    {
        $schemas = [];
        $sheets = new Sheets();
        $sheeted = false;
        $faults = [];
        foreach ($this->paths as $path) {
            try {
                if ('script' === self::kindOf($path)) {
                    foreach ($this->script($path)->inventory()->schemas as $schema => $objects) {
                        $schemas[$schema] = ($schemas[$schema] ?? []) + $objects;
                    }
                } elseif ('csv' === self::kindOf($path)) {
                    $file = new CsvFile($path);
                    if (null === Sheets::sheet($file->header)) {
                        $schemas[self::SCHEMA][self::name($path)] = TableType::Table->value;
                    } else {
                        $sheeted = true;
                        $sheets->add(basename($path), $file->header, $file);
                    }
                } else {
                    $schemas[self::SCHEMA][self::name($path)] = TableType::Collection->value;
                }
            } catch (SourceError $e) {
                $faults[] = $this->orAlone($e);
            }
        }
        if ([] === $schemas && !$sheeted && [] !== $faults) {
            throw $faults[0];
        }
        if ($sheeted) {
            $catalog = $sheets->catalog();
            if ([] === $catalog->tables) {
                throw new SourceError($catalog->notes[0] ?? 'The sheets hold nothing.', '');
            }
            foreach ($catalog->tables as $table) {
                $schemas[$table->schema][$table->name] = $table->kind->value;
            }
        }

        return new Inventory($this->words(), $schemas);
    }

    public function read(Choice $choice, Progress $progress): Catalog
    {
        $found = new Delivery();
        $faults = [];
        $names = array_fill_keys(array_map(static fn (string $path): string => rtrim(strtolower(self::name($path)), 's'), $this->paths), true);
        foreach ($this->paths as $path) {
            $name = self::name($path);
            try {
                $this->file($path, $name, $choice, $progress, $names, $found);
            } catch (SourceError $e) {
                $faults[] = $this->orAlone($e);
                $found->notes[] = $e->inWords();
            }
        }
        if ([] === $found->tables && !$found->sheeted && [] !== $faults) {
            throw $faults[0];
        }
        $notes = $found->notes;
        $tables = $found->tables;
        if ($found->sheeted) {
            $catalog = $found->sheets->catalog();
            array_push($tables, ...array_filter($catalog->tables, static fn (Table $table): bool => $choice->takes($table->schema, $table->name)));
            array_push($notes, ...$catalog->notes);
        }
        $references = References::among($found->collections);
        $tables = array_map(
            static fn (Table $table): Table => TableType::Collection === $table->kind && isset($references[$table->name]) ? self::joined(
                $table,
                $references[$table->name],
            ) : $table,
            $tables,
        );
        usort($tables, static fn (Table $a, Table $b): int => [$a->schema, $a->name] <=> [$b->schema, $b->name]);
        $tables = self::distinct($tables, $notes);

        return new Catalog(
            1 === \count($found->engines) && \count($this->paths) === \count($this->scripts) ? (string) key($found->engines) : 'files',
            $this->words(),
            $tables,
            $found->routines,
            $notes,
            $found->statements,
        );
    }

    /** One bad file among several must not keep the others out; where it is the only one, it is the answer. */
    private function orAlone(SourceError $fault): SourceError
    {
        return 1 === \count($this->paths) ? throw $fault : $fault;
    }

    /**
     * @param array<string, true> $names
     *
     * @throws SourceError
     */
    private function file(string $path, string $name, Choice $choice, Progress $progress, array $names, Delivery $found): void
    {
        $kind = self::kindOf($path);
        if ('script' === $kind) {
            $found->script($this->script($path)->read($choice, $progress));
        } elseif ('csv' === $kind) {
            $file = new CsvFile($path);
            if (null !== Sheets::sheet($file->header)) {
                $found->sheets->add(basename($path), $file->header, $file);
                $found->sheeted = true;
            } elseif ($choice->takes(self::SCHEMA, $name)) {
                $csv = new CsvTable(self::SCHEMA, $name, $file);
                $found->tables[] = $csv->read($progress);
                array_push($found->notes, ...$csv->notes);
            }
        } elseif ($choice->takes(self::SCHEMA, $name)) {
            $schema = self::schemaIn($path);
            if (null !== $schema) {
                $found->tables[] = $schema->table(self::SCHEMA, $name);

                return;
            }
            $collection = new Collection(self::SCHEMA, $name, $path, $names);
            $found->tables[] = $collection->read($progress);
            $found->collections[] = $collection;
            array_push($found->notes, ...$collection->notes);
        }
    }

    /**
     * @param list<Table>  $tables
     * @param list<string> $notes
     *
     * @return list<Table>
     */
    private static function distinct(array $tables, array &$notes): array
    {
        $result = [];
        foreach ($tables as $table) {
            $place = $table->place()->key();
            if (isset($result[$place])) {
                $notes[] = \sprintf('%s stands in more than one file; the first was taken.', $table->place());
            } else {
                $result[$place] = $table;
            }
        }

        return array_values($result);
    }

    /** @param list<\Fasti\Core\Catalog\ForeignKey> $keys */
    private static function joined(Table $table, array $keys): Table
    {
        return $table->with(foreignKeys: $keys);
    }

    private function words(): string
    {
        if (1 === \count($this->paths)) {
            return basename($this->paths[0]);
        }

        return \count($this->paths).' files';
    }

    private function script(string $path): Reader
    {
        return $this->scripts[$path] ??= new ScriptReader($path, $this->dialect, self::SCHEMA);
    }

    /** The entry that a file becomes: its name up to the endings. */
    public static function name(string $path): string
    {
        return (string) preg_replace(
            '/\.(?:jsonl?|ndjson|csv|tsv|schema\.json)$/i',
            '',
            basename($path, '.schema.json') === basename($path) ? basename($path) : basename($path, '.schema.json'),
        );
    }

    private static function kindOf(string $path): string
    {
        return self::ENDINGS[strtolower(pathinfo($path, \PATHINFO_EXTENSION))] ?? 'json';
    }

    private static function schemaIn(string $path): ?SchemaFile
    {
        if ((int) @filesize($path) > 1 << 22) {
            return null;
        }
        $value = json_decode((string) file_get_contents($path), true, JsonDocuments::DEPTH);

        /** @var array<string, mixed> $value */
        return SchemaFile::is($value) ? new SchemaFile($value) : null;
    }
}
