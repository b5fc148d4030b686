<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

/** The lists of types, functions, operators and casts that the server has by itself; `types/make.sh` writes them. */
final class TypeCatalog
{
    private static ?self $only = null;

    /**
     * @var array<string, array{string, string, bool, string, string, string, string}> by short name: shown, category, preferred, list of it, element, kind,
     *     what a range is of
     */
    public array $types = [];
    /**
     * @var array<string, list<array{list<string>, string, string, int, bool, array<string, string>}>> by name: arguments, result, kind, how many have
     *     defaults, last is repeated, columns of a row
     */
    public array $functions = [];
    /** @var array<string, list<array{string, string, string}>> by sign: left, right, result */
    public array $operators = [];
    /** @var array<string, array<string, string>> source → target → i (by itself) or a (when stored) */
    public array $casts = [];
    /** @var array<string, string> shown → short */
    private array $shown = [];

    public static function read(): self
    {
        return self::$only ??= new self();
    }

    private function __construct()
    {
        foreach (self::lines('types') as [$name, $shown, $category, $preferred, $list, $element, $kind, $of]) {
            $shown = ['bpchar' => 'bpchar', 'bit' => '"bit"', '_bpchar' => 'bpchar[]', '_bit' => '"bit"[]'][$name] ?? $shown;
            $this->types[$name] = [$shown, $category, '1' === $preferred, $list, $element, $kind, $of];
            $this->shown[$shown] = $name;
        }
        $this->shown['character'] = 'bpchar';
        $this->shown['bit'] = 'bit';
        $this->shown['character[]'] = '_bpchar';
        $this->shown['bit[]'] = '_bit';
        foreach (self::lines('functions') as [$name, $arguments, $result, $kind, $defaults, $repeated, , $columns]) {
            $row = [];
            foreach ('' === $columns ? [] : explode(' ', $columns) as $column) {
                [$of, $type] = explode(':', $column, 2);
                $row[$of] = $type;
            }
            $this->functions[$name][] = ['' === $arguments ? [] : explode(' ', $arguments), $result, $kind, (int) $defaults, '1' === $repeated, $row];
        }
        foreach (self::lines('operators') as [$sign, $left, $right, $result]) {
            $this->operators[$sign][] = [$left, $right, $result];
        }
        foreach (self::lines('casts') as [$from, $to, $how]) {
            $this->casts[$from][$to] = $how;
        }
    }

    public function internal(string $type): string
    {
        if (isset($this->shown[$type])) {
            return $this->shown[$type];
        }
        if (isset($this->types[$type])) {
            return $type;
        }
        $bare = (string) preg_replace('/\s*\([^)]*\)/', '', $type);
        if (isset($this->shown[$bare])) {
            return $this->shown[$bare];
        }
        if (str_starts_with($bare, 'interval')) {
            return str_ends_with($bare, '[]') ? '_interval' : 'interval';
        }

        return str_ends_with($bare, '[]') ? '_'.$this->internal(substr($bare, 0, -2)) : $bare;
    }

    /** Whether it is a type of the server's own, by either of its names. */
    public function knows(string $type): bool
    {
        return isset($this->types[$type]) || isset($this->shown[$type]) || 1 === preg_match('/^(?:interval\b|char$)/', $type);
    }

    public function shown(string $internal): string
    {
        return $this->types[$internal][0] ?? (str_starts_with($internal, '_') ? $this->shown(substr($internal, 1)).'[]' : $internal);
    }

    /** @return \Generator<int, list<string>> */
    private static function lines(string $name): \Generator
    {
        foreach (file(__DIR__."/types/$name.tsv", \FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            yield explode("\t", $line);
        }
    }
}
