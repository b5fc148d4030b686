<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Reserved;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Model\Aggregate\Aggregate;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** Which fields of a role could be measures and which attributes. Nothing is taken of them until somebody does. */
final readonly class FieldOffers
{
    private const STOCKS = ['stock', 'balance', 'inventory', 'backlog', 'holding', 'remaining'];

    /** Numbers by which rows are put in order or told apart, which no sum means anything of. */
    private const NUMBERINGS = ['line', 'lineno', 'rank', 'position', 'pos', 'sequence', 'seq', 'version', 'revision', 'year', 'month', 'week', 'day', 'hour',
        'minute', 'quarter', 'floor', 'zip', 'postcode', 'phone', 'fax', 'lat', 'latitude', 'lon', 'lng', 'longitude', 'easting', 'northing', 'port', 'zone',
        'priority', 'ordinal', 'serial', 'chapter', 'page', 'row', 'column'];

    /**
     * @param array<string, string> $names business names by FieldPlace::key()
     * @param array<string, true>   $empty fields in which nothing stands, by the same
     */
    public function __construct(private Ground $ground, private array $names = [], private array $empty = [])
    {
    }

    /** @return list<FieldOffer> what is not in the model yet, the count of rows of a fact first */
    public function of(string $role): array
    {
        $table = $this->ground->table($role);
        $is = $this->ground->role($role);
        if (null === $table || '' !== $is->like) {
            return [];
        }
        $leading = $taken = [];
        foreach ($this->ground->model->joins as $join) {
            if ($join->from === $role) {
                $leading += array_flip($join->fields);
            }
        }
        foreach ($is->attributes as $attribute) {
            $field = $this->ground->formula($role, $attribute->expression)->field();
            if (null !== $field) {
                $taken[$field->column] = true;
            }
        }
        $offers = [];
        if (RoleKind::Fact === $is->kind) {
            $counted = array_filter(
                $this->ground->model->measures,
                static fn (Measure $one): bool => $one->fact === $role && !$one->aggregation->needsValue() && '' === $one->expression,
            );
            if ([] === $counted) {
                $offers[] = new FieldOffer(
                    $role,
                    '',
                    new Measure($this->free('Number of '.Noun::plural($role)), new Count(), $role),
                    'how many rows there are',
                );
            }
        }
        foreach ($table->columns as $column) {
            $place = $is->entry->key()."\0".$column->name;
            $never = isset($leading[$column->name]) || isset($this->empty[$place]) || isset($this->ground->closed[$place]);
            $offer = $never ? null : $this->offer($is, $table, $column, isset($taken[$column->name]));
            if (null !== $offer) {
                $offers[] = $offer;
            }
        }

        return $offers;
    }

    private function offer(Role $role, Table $table, Column $column, bool $taken): ?FieldOffer
    {
        $type = $this->ground->typeOf($column);
        $words = NameWords::singular(NameWords::of($column->name));
        $name = $this->names[$role->entry->key()."\0".$column->name] ?? Naming::asName($column->name);
        if ($type->array || \in_array($type->family, [TypeFamily::Bytes, TypeFamily::Document, TypeFamily::Spatial, TypeFamily::Other], true)) {
            return null;
        }
        $key = $role->key === [$column->name] && ($column->autoNumbered || NameWords::isKeyEnding(NameWords::ending($column->name)));
        if (RoleKind::Fact === $role->kind && $type->family->isNumeric() && !$key && !self::isNumbering($table, $column, $words)) {
            $measured = array_filter($this->ground->model->measures, fn (Measure $one): bool => $one->fact === $role->name && '' !== $one->expression
                && $this->ground->formula($role->name, $one->expression)->field()?->column === $column->name);

            return [] !== $measured || $taken ? null : $this->measured($role, $column, $name, $words);
        }

        return $key || $taken ? null : new FieldOffer(
            $role->name,
            $column->name,
            new Attribute($this->freeOf($role, $name), self::written($column->name)),
            match (true) {
                TypeFamily::Time === $type->family => 'when it was',
                $type->family->isNumeric() => 'a number by which rows are told apart',
                TypeFamily::Flag === $type->family => 'yes or no',
                default => RoleKind::Fact === $role->kind ? 'a text of its own: a dimension of one field' : 'a text of its own',
            });
    }

    /**
     * Whether a number is a key, a part of one, a reference, or puts rows in order.
     *
     * @param list<string> $words
     */
    private static function isNumbering(Table $table, Column $column, array $words): bool
    {
        $keys = array_filter([$table->primaryKey, ...$table->uniqueKeys]);
        $lists = array_map(static fn (Key|ForeignKey $key): array => $key->columns, [...$keys, ...$table->foreignKeys]);
        $last = $words[\count($words) - 1] ?? '';

        return NameWords::isKeyEnding(NameWords::ending($column->name)) || \in_array($column->name, array_merge([], ...$lists), true)
            || \in_array($last, self::NUMBERINGS, true) || \in_array($last, ['number', 'order'], true) && \count($words) > 1;
    }

    /** @param list<string> $words */
    private function measured(Role $role, Column $column, string $name, array $words): FieldOffer
    {
        $field = self::written($column->name);
        $aggregation = self::aggregate($words);
        $stock = [] !== array_intersect($words, self::STOCKS);
        $unit = $this->ground->unit($role->name, $column->name);
        $over = $stock ? $this->times($role->name) : null;
        $measure = new Measure(
            $this->free($name), $aggregation, $role->name, $field, unit: $unit,
            adds: $stock && !$aggregation->isValue() ? Additivity::SemiAdditive : $aggregation->additivity(),
            notOver: null === $over ? [] : [$over->role],
            instant: $over, instead: null === $over ? Instead::Nothing : Instead::Last,
            reason: $stock ? 'it is a stock: what there is at one time' : '',
        );

        return new FieldOffer($role->name, $column->name, $measure, $stock ? 'a stock: it adds up, but not over time' : $aggregation->why());
    }

    /**
     * How a number is taken, by its name: the mean is worth least of what a name says, since it goes with what kind of amount it is.
     *
     * @param list<string> $words
     */
    private static function aggregate(array $words): Aggregate
    {
        $named = array_filter(Aggregate::known(), static fn (Aggregate $one): bool => [] !== array_intersect($words, $one->namedBy()));
        usort($named, static fn (Aggregate $a, Aggregate $b): int => $a->isMean() <=> $b->isMean());

        return $named[0] ?? new Sum();
    }

    /** The attribute that says when, to which a fact leads by one route. */
    private function times(string $fact): ?Level
    {
        foreach ($this->ground->ways()->reached($fact) as $role) {
            foreach ($this->ground->model->attributesOf($this->ground->role($role)) as $attribute) {
                if (TypeFamily::Time === $this->ground->formula($role, $attribute->expression)->family
                    && 1 === \count($this->ground->ways()->between($fact, $role))) {
                    return new Level($role, $attribute->name);
                }
            }
        }

        return null;
    }

    private function free(string $name): string
    {
        for ($n = 2, $free = $name; null !== $this->ground->names()->measure($free); ++$n) {
            $free = "$name $n";
        }

        return $free;
    }

    private function freeOf(Role $role, string $name): string
    {
        for ($n = 2, $free = $name; null !== $role->attribute($free); ++$n) {
            $free = "$name $n";
        }

        return $free;
    }

    /** A field as it stands in an expression. */
    public static function written(string $field): string
    {
        return 1 === preg_match('/^[A-Za-z_][A-Za-z0-9_]*$/', $field) && !Reserved::has($field) ? $field : Quotes::around($field);
    }
}
