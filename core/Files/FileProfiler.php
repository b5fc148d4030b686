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
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Profile\Tally;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Target;
use Fasti\Core\Value\Allowed;

/** Profiles a CSV file or a collection of documents, in one pass over all of it. */
final class FileProfiler
{
    private const MOST_STATED = 3000000;
    private const MOST_UNSTATED = 1000000;
    private const MOST_REPEATS = 1000;
    /** Of rows that repeat. */
    private const EXAMPLES = 3;
    private const SHOWN = 6;
    private const SHOWN_LETTERS = 200;
    /** Rows that are told apart at the most. */
    private int $most = self::MOST_STATED;
    /** @var array<string, array{values: list<string>, rows: int}> */
    private array $repeats = [];
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
        if ([] === $grain && TableType::Collection !== $table->kind) {
            // Of a file nobody has said what tells rows apart; the least one may ask is that no row is there twice.
            $grain = array_map(static fn (Column $column): string => $column->name, $table->columns);
            $this->most = self::MOST_UNSTATED;
        }
        $rows = TableType::Collection === $table->kind ? $this->documents($path, $grain, $progress) : $this->rows($path, $table, $grain, $progress);
        $fields = [];
        foreach ($table->columns as $column) {
            $tally = $this->tallies[$column->name];
            $of = null === $column->seen || 0 === $column->seen->of ? $rows : max($tally->values, $column->seen->of);
            $fields[$column->name] = (new FieldFigures($table->name, $column, $families[$column->name], $decisions[$column->name] ?? ''))->field(
                $of,
                $tally->figures(TypeFamily::Text === $families[$column->name]),
                $tally->sample(),
                $tally->frequent(),
                ($this->checks[$column->name] ?? null)?->sorted(),
                $tally->lists(),
            );
        }

        $notes = $this->tooMany ? ['Whether rows repeat was not followed to the end: there are too many.'] : [];
        $repeated = [] === $grain || $this->tooMany ? null : $this->repeated;
        $seconds = round(microtime(true) - $start, 2);

        return new TableProfile($rows, $rows, '', $fields, $grain, $repeated, $notes, $seconds, $this->examples($grain, $fields));
    }

    /** @param list<string> $grain */
    private function rows(string $path, Table $table, array $grain, Progress $progress): int
    {
        $file = new CsvFile($path);
        $names = array_map(static fn (Column $column): string => $column->name, $table->columns);
        $at = array_flip($names);
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
            $this->repeat($grain, static fn (string $field): string => $file->text((string) ($row[$at[$field]] ?? '')));
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
        $steps = [];
        foreach ($grain as $field) {
            $steps[$field] = MemberPath::of($field)->steps;
        }
        foreach ($documents as [$value]) {
            if (!$value instanceof \stdClass) {
                continue;
            }
            ++$count;
            $this->walk($value, '', 0);
            $this->repeat($grain, static fn (string $field): string => self::under($value, $steps[$field]));
            if (0 === ($count & 0xFF)) {
                $progress->at(basename($path).': all documents', $documents->bytes, max($size, $documents->bytes));
            }
        }

        return $count;
    }

    /**
     * What stands in a document under a path, as text.
     *
     * @param list<string|int> $steps
     */
    private static function under(mixed $value, array $steps): string
    {
        foreach ($steps as $step) {
            if (\is_string($step)) {
                $value = $value instanceof \stdClass ? $value->{$step} ?? null : null;
            }
        }

        return \is_string($value) ? $value : (string) json_encode($value);
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
            if (null !== $tally) {
                ++$tally->values;
            }
            if ($depth < Structure::DEEPEST) {
                $this->walk($value, $path, $depth + 1);
            }
        } elseif (\is_array($value)) {
            $tally?->addList(\count($value));
            foreach ($value as $item) {
                $this->value($item, MemberPath::items($path), $depth);
            }
        } elseif (null !== $value && null !== $tally) {
            $text = match (true) {
                \is_bool($value) => $value ? 'true' : 'false',
                \is_scalar($value) => (string) $value,
                default => '',
            };
            $tally->add($text, $this->numbers[$path]);
            ($this->checks[$path] ?? null)?->look($text);
        }
    }

    /**
     * @param list<string>                   $grain
     * @param callable(string): string $of
     */
    private function repeat(array $grain, callable $of): void
    {
        if ([] === $grain || $this->tooMany) {
            return;
        }
        $values = array_map($of, $grain);
        $key = hash('xxh128', implode("\0", $values), true);
        if (!isset($this->seen[$key])) {
            $this->seen[$key] = true;
            $this->tooMany = \count($this->seen) > $this->most;

            return;
        }
        ++$this->repeated;
        if (isset($this->repeats[$key])) {
            ++$this->repeats[$key]['rows'];
        } elseif (\count($this->repeats) < self::MOST_REPEATS) {
            $this->repeats[$key] = ['values' => $values, 'rows' => 2];
        }
    }

    /**
     * Those that stand most often among the first that repeat, without what is personal.
     *
     * @param list<string>                $grain
     * @param array<string, FieldProfile> $fields
     *
     * @return list<array{values: list<string>, rows: int}>
     */
    private function examples(array $grain, array $fields): array
    {
        $examples = $this->repeats;
        usort($examples, static fn (array $a, array $b): int => $b['rows'] <=> $a['rows']);
        foreach ($examples as &$example) {
            foreach ($example['values'] as $i => $value) {
                $example['values'][$i] = '' === $fields[$grain[$i]]->personal ? mb_strimwidth($value, 0, self::SHOWN_LETTERS, '…') : SqlProfiler::MASK;
            }
            $example['values'] = \array_slice($example['values'], 0, self::SHOWN);
        }

        return \array_slice($examples, 0, self::EXAMPLES);
    }
}
