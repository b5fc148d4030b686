<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Profile\Check;
use Fasti\Core\Profile\FieldFigures;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Profile\Tally;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Target;
use Fasti\Core\Value\Allowed;

/** Profiles a CSV file or a collection of documents, in one pass over all of it. */
final class FileProfiler
{
    /** @var array<string, Tally> */
    private array $tallies = [];
    /** @var array<string, bool> */
    private array $numbers = [];
    /** @var array<string, array<array-key, string>> place → name → path of the member */
    private array $paths = [];
    /** @var array<string, bool> place → whether its objects are maps */
    private array $maps = [];
    /** @var array<string, Check> */
    private array $checks = [];
    private int $repeated = 0;
    /** @var array<string, true> */
    private array $seen = [];
    private bool $tooMany = false;

    /**
     * @param list<string>          $grain
     * @param array<string, string> $decisions
     * @param array<string, Allowed> $allowed field → values that it may hold
     */
    public function profile(string $path, Table $table, array $grain, array $decisions, Progress $progress, array $allowed = []): TableProfile
    {
        $start = microtime(true);
        mt_srand(1);
        $families = [];
        foreach ($table->columns as $column) {
            $families[$column->name] = Dialects::of(Target::FILES)->typeOf($column)->family;
            $this->tallies[$column->name] = new Tally();
            $this->numbers[$column->name] = $families[$column->name]->isNumeric();
            if (isset($allowed[$column->name])) {
                $this->checks[$column->name] = new Check($allowed[$column->name], $allowed[$column->name]->words());
                $this->checks[$column->name]->broken = 0;
            }
        }
        $grain = array_values(array_filter($grain, static fn (string $field): bool => null !== $table->column($field)));
        $rows = TableType::Collection === $table->kind ? $this->documents($path, $grain, $progress) : $this->rows($path, $table, $grain, $progress);
        $fields = [];
        foreach ($table->columns as $column) {
            $tally = $this->tallies[$column->name];
            $of = null === $column->seen || 0 === $column->seen->of ? $rows : max($tally->values, $column->seen->of);
            $fields[$column->name] = FieldFigures::field(
                $table->name,
                $column,
                $families[$column->name],
                $of,
                $tally->figures(TypeFamily::Text === $families[$column->name]),
                $tally->sample(),
                $tally->frequent(),
                $decisions[$column->name] ?? '',
                ($this->checks[$column->name] ?? null)?->sorted(),
            );
        }

        return new TableProfile($rows, $rows, '', $fields, $grain, [] === $grain || $this->tooMany ? null : $this->repeated, $this->tooMany ? ['Whether rows repeat was not followed to the end: there are too many.'] : [], round(microtime(true) - $start, 2));
    }

    /** @param list<string> $grain */
    private function rows(string $path, Table $table, array $grain, Progress $progress): int
    {
        $file = new CsvFile($path);
        $names = array_map(static fn (Column $column): string => $column->name, $table->columns);
        $size = (int) filesize($path);
        $rows = 0;
        foreach ($file as $row) {
            ++$rows;
            foreach ($names as $i => $name) {
                if ('' !== ($row[$i] ?? '')) {
                    $text = $file->text($row[$i]);
                    $this->tallies[$name]->add($text, $this->numbers[$name]);
                    ($this->checks[$name] ?? null)?->look($text);
                }
            }
            $this->repeat($grain, static fn (string $field): string => (string) ($row[(int) array_search($field, $names, true)] ?? ''));
            if (0 === ($rows & 0x3FF)) {
                $progress->at($table->name.': all rows', $file->bytes, $size);
            }
        }

        return $rows;
    }

    /** @param list<string> $grain */
    private function documents(string $path, array $grain, Progress $progress): int
    {
        $size = (int) filesize($path);
        $documents = new JsonDocuments($path);
        $count = 0;
        foreach ($documents as [$value]) {
            if (!$value instanceof \stdClass) {
                continue;
            }
            ++$count;
            $this->walk($value, '', 0);
            $this->repeat($grain, static fn (string $field): string => (string) json_encode($value->{$field} ?? null));
            if (0 === ($count & 0xFF)) {
                $progress->at(basename($path).': all documents', $documents->bytes, max($size, $documents->bytes));
            }
        }

        return $count;
    }

    private function walk(\stdClass $object, string $path, int $depth): void
    {
        $map = $this->maps[$path] ??= isset($this->tallies[MemberPath::values($path)]);
        foreach ((array) $object as $name => $value) {
            $this->value($value, $map ? MemberPath::values($path) : $this->paths[$path][$name] ??= MemberPath::member($path, (string) $name), $depth);
        }
    }

    private function value(mixed $value, string $path, int $depth): void
    {
        $tally = $this->tallies[$path] ?? null;
        if ($value instanceof \stdClass) {
            null === $tally || ++$tally->values;
            if ($depth < Structure::DEEPEST) {
                $this->walk($value, $path, $depth + 1);
            }
        } elseif (\is_array($value)) {
            null === $tally || ++$tally->values;
            foreach ($value as $item) {
                $this->value($item, MemberPath::items($path), $depth);
            }
        } elseif (null !== $value && null !== $tally) {
            $text = \is_bool($value) ? ($value ? 'true' : 'false') : (\is_scalar($value) ? (string) $value : '');
            $tally->add($text, $this->numbers[$path]);
            ($this->checks[$path] ?? null)?->look($text);
        }
    }

    /**
     * @param list<string>             $grain
     * @param callable(string): string $of
     */
    private function repeat(array $grain, callable $of): void
    {
        if ([] === $grain || $this->tooMany) {
            return;
        }
        $key = hash('xxh128', implode("\0", array_map($of, $grain)), true);
        if (isset($this->seen[$key])) {
            ++$this->repeated;
        } else {
            $this->seen[$key] = true;
            $this->tooMany = \count($this->seen) > 3000000;
        }
    }
}
