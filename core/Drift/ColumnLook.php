<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;

/** What of their structure speaks for it that a column that is gone is one that is new. */
final class ColumnLook
{
    /** Types that are seldom chosen twice in one table. */
    private const RARE = '/^(?:date|time|year|numeric|decimal|real|float|double|uuid|json|inet|point|geometry)\b/i';
    private const OWN_TYPE = '/^(?:enum|set)\b|^(?:var)?char(?:acter varying)?\((?!(?:255|250|200|191|128|100|64|50|40|32|20|10)\))\d+\)/i';
    private const EMPTY_DEFAULT = "/^(?:'?0?'?|''.*|true|false|1|NULL.*)$/i";

    /** @var array{array<string, array{string, string}>, array<string, array{string, string}>} what stands before and after each */
    private readonly array $places;
    /** @var array{array<string, string>, array<string, string>} where each leads */
    private readonly array $leads;
    /** @var array{array<string, array{string, int, int}>, array<string, array{string, int, int}>} which keys each is part of */
    private readonly array $held;
    /** @var array{array<string, int>, array<string, int>} how many there are of each type */
    private readonly array $types;
    private readonly bool $asMany;

    /**
     * @param list<Column> $gone
     * @param list<Column> $new
     */
    public function __construct(Table $before, Table $after, array $gone, array $new, private readonly Dialect $dialect)
    {
        $type = static fn (Column $column): string => $column->type;
        $this->places = [self::neighbours($before, $after), self::neighbours($after, $before)];
        $this->leads = [self::leads($before), self::leads($after)];
        $this->held = [self::held($before), self::held($after)];
        $this->types = [array_count_values(array_map($type, $gone)), array_count_values(array_map($type, $new))];
        $this->asMany = \count($gone) === \count($new);
    }

    /**
     * @return array{float, list<string>, bool}|null how likely, why, and whether that is more than that it stands where the other stood;
     *     null for other types
     */
    public function at(Column $was, Column $is): ?array
    {
        $type = match (true) {
            $was->type === $is->type && $was->base === $is->base => 0.35,
            self::alike($this->dialect->typeOf($was), $this->dialect->typeOf($is)) => 0.2,
            default => 0.0,
        };
        if (0.0 === $type) {
            return null;
        }
        $named = Likeness::of($was->name, $is->name);
        $place = match (true) {
            $this->places[0][$was->name] !== $this->places[1][$is->name] => 0.0,
            '' === $this->places[0][$was->name][1] => 0.1,
            default => 0.25,
        };
        $score = $type + 0.38 * $named + $place + ($was->nullable === $is->nullable ? 0.05 : 0.0);
        [$rare, $seldom] = $type > 0.3 ? $this->rare($was, $is, $place) : [0.0, false];
        $why = [$type > 0.3 ? 'the same type' : 'a like type'];
        [$first, $last] = $this->same($was, $is);
        $place = $place > 0 ? ['the same place'] : [];
        $alike = $named >= 0.4 ? ['a like name'] : [];
        // What stands in the same place may be another thing: that it is the same one, something else has to say.
        $evidence = $seldom || Likeness::ofThings($was->name, $is->name) >= 0.34 || [] !== $first || [] !== $last;

        return [
            $score + $rare + array_sum($first) + array_sum($last),
            [...$why, ...array_keys($first), ...$place, ...$alike, ...array_keys($last)],
            $evidence,
        ];
    }

    /** @return array{float, bool} what it adds that a type stands once before and after, and whether that is evidence */
    private function rare(Column $was, Column $is, float $place): array
    {
        if (1 !== $this->types[0][$was->type] || 1 !== ($this->types[1][$is->type] ?? 0)) {
            return [0.0, false];
        }
        // A text with an odd length, or a list of its own, is seldom chosen twice.
        $own = 1 === preg_match(self::OWN_TYPE, $was->base ?? $was->type);
        // Such a type in such a place is hardly another thing; a text or a whole number may be anything.
        $rare = $this->asMany && 1 === preg_match(self::RARE, $was->type);

        return [$own ? 0.1 : 0.0, $place > 0.2 && ($own || $rare)];
    }

    /** @return array{array<string, float>, array<string, float>} words and weights of what is the same, in two parts of a sentence */
    private function same(Column $was, Column $is): array
    {
        $first = $last = [];
        $held = $this->held[0][$was->name] ?? null;
        if (null !== $held && $held === ($this->held[1][$is->name] ?? null)) {
            $first += 'primary' === $held[0] ? ['the same part in the primary key' => 0.2] : ['the same part in a key' => 0.1];
        }
        if (null !== $was->default && $was->default === $is->default && 1 !== preg_match(self::EMPTY_DEFAULT, $was->default)) {
            $first['the same default'] = 0.1;
        }
        if ('' !== $was->comment && $was->comment === $is->comment) {
            $last['the same comment'] = 0.2;
        }
        if (isset($this->leads[0][$was->name]) && $this->leads[0][$was->name] === ($this->leads[1][$is->name] ?? null)) {
            $last['the same reference'] = 0.2;
        }
        if (null !== $was->seen && null !== $is->seen && [] !== $was->seen->values && [] === array_diff_key($was->seen->values, $is->seen->values)) {
            $last['the same values'] = 0.2;
        }

        return [$first, $last];
    }

    /** @return array<string, array{string, string}> column → its neighbours that both tables have; '' at either end */
    private static function neighbours(Table $table, Table $other): array
    {
        $before = $after = [];
        $last = '';
        $open = [];
        foreach ($table->columns as $column) {
            $before[$column->name] = $last;
            $after[$column->name] = '';
            if (null !== $other->column($column->name)) {
                foreach ($open as $name) {
                    $after[$name] = $column->name;
                }
                $open = [];
                $last = $column->name;
            }
            $open[] = $column->name;
        }
        $places = [];
        foreach ($before as $name => $neighbour) {
            $places[$name] = [$neighbour, $after[$name]];
        }

        return $places;
    }

    /** @return array<string, string> column → where a foreign key of its own leads */
    private static function leads(Table $table): array
    {
        $leads = [];
        foreach ($table->foreignKeys as $key) {
            if (1 === \count($key->columns)) {
                $leads[$key->columns[0]] = $key->references->place()->key()."\0".$key->references->columns[0];
            }
        }

        return $leads;
    }

    /** @return array<string, array{string, int, int}> column → in which kind of key it is, how wide that is, and its place there */
    private static function held(Table $table): array
    {
        $held = [];
        foreach ($table->uniqueKeys as $key) {
            foreach ($key->columns as $i => $column) {
                $held[$column] ??= ['unique', \count($key->columns), $i];
            }
        }
        foreach ($table->primaryKey->columns ?? [] as $i => $column) {
            $held[$column] = ['primary', \count($table->primaryKey->columns ?? []), $i];
        }

        return $held;
    }

    private static function alike(Type $was, Type $is): bool
    {
        return $was->array === $is->array && $was->family === $is->family && (TypeFamily::Other !== $was->family || $was->name === $is->name);
    }
}
