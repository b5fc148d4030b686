<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Catalog\ClosedSet;
use Fasti\Core\Catalog\FoundBeside;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Additivity;

/**
 * How the values of many rows become one figure. Each class beside this one is found by being here, and says all that is asked of it: by the
 * planner, by what composes the query, by checks, by the form and by the schema of models.
 */
abstract class Aggregate implements ClosedSet
{
    use FoundBeside;

    /** What it is called in models and on the form. */
    abstract public function name(): string;

    /**
     * The aggregate over the values of rows.
     *
     * @param ?string $value null for the rows themselves
     *
     * @return ?string null where the engine has none, so that rows are put in order first
     */
    abstract public function sql(AskSql $sql, ?string $value): ?string;

    /**
     * How it is taken where the engine has no such aggregate: of a query that gives each value as v, with what else is said of the values beside it, and
     * what that makes of them.
     *
     * @param string $over what stands within OVER (…) for the values of one row of the answer
     *
     * @return array{list<string>, string, string} what is selected beside v, the figure, and a condition on the values that count; '' for all
     */
    public function overRows(AskSql $sql, string $value, string $over): array
    {
        throw new \LogicException('It is an aggregate of every engine.');
    }

    public function rank(): int
    {
        return 75;
    }

    /** What it is called before what it is taken of: "sum of individuals". */
    public function inWords(): string
    {
        return $this->name();
    }

    /** It is taken of other measures, and not of rows. */
    public function isOfMeasures(): bool
    {
        return false;
    }

    /** It is taken of a value of each row, and not of the rows themselves. */
    public function needsValue(): bool
    {
        return true;
    }

    public function needsNumbers(): bool
    {
        return true;
    }

    /** Figures of parts, added up, give that of the whole. */
    public function adds(): bool
    {
        return false;
    }

    /** The figure is the total of the values. */
    public function isTotal(): bool
    {
        return false;
    }

    /** The figure is the mean of the values. */
    public function isMean(): bool
    {
        return false;
    }

    /** The figure is one of the values, so that it has their type. */
    public function isValue(): bool
    {
        return false;
    }

    /** What a figure tells is something of the values, and not only how many there are. */
    public function tellsOfValues(): bool
    {
        return true;
    }

    /** The type of the figure, where the values are of this one. */
    public function family(TypeFamily $values): TypeFamily
    {
        return TypeFamily::Number;
    }

    /** The unit of the figure, where the values are in this one. */
    public function unit(string $values): string
    {
        return $values;
    }

    /** The figure of no rows, as SQL; null where there is none. */
    public function ofNothing(): ?string
    {
        return null;
    }

    /**
     * Aggregates of parts, and what makes the whole of them.
     *
     * @param string $number tells the names of the parts from those of other measures
     *
     * @return array{array<string, string>, string}|null the parts by the names that they get, and the whole, in which they stand as
     *                                                   `grouped.NAME`; null where the whole does not come of parts
     */
    public function inParts(AskSql $sql, ?string $value, string $number): ?array
    {
        return null;
    }

    /**
     * The aggregate over values of rows of which each counts for a part.
     *
     * @return ?string null where that is no such figure
     */
    public function shared(AskSql $sql, ?string $value, string $part): ?string
    {
        return null;
    }

    /** @return list<string> words in the name of a field that tell that it is meant to be taken so */
    public function namedBy(): array
    {
        return [];
    }

    /** Why, where such a word stands in a name. */
    public function why(): string
    {
        return 'its name says so';
    }

    /** Whether such a figure may be added up, where nobody has said it. */
    public function additivity(): Additivity
    {
        return Additivity::NonAdditive;
    }
}
