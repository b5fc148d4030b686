<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Catalog\ClosedSet;
use Fasti\Core\Catalog\FoundBeside;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/**
 * What can be made of the figures of a measure across an answer. Each class beside this one is found by being here, and says all that is asked of it:
 * by whoever reads a question, by the planner, by what composes the query, by whatever shows it.
 */
abstract class Companion implements ClosedSet
{
    use FoundBeside;

    /** What it is called in files. */
    abstract public function name(): string;

    /** As it is asked for. */
    abstract public function inWords(Figure $figure): string;

    /** What it says of a figure, for whoever chooses. */
    abstract public function help(): string;

    /**
     * The expression by which such words are understood, with the groups measure, within, along, many and span.
     *
     * @return non-empty-string
     */
    abstract public function pattern(): string;

    /**
     * The figure, over the rows of the answer.
     *
     * @param string $value   the measure in a row
     * @param string $before  the same, so many spans before; '' where it is not of those
     * @param string $windows what the rows are parted by, and their order: what stands within OVER (…)
     */
    abstract public function sql(AskSql $sql, string $value, string $before, string $windows): string;

    /** It adds the figures of several rows up, which means something only where they may be added. */
    public function adds(): bool
    {
        return false;
    }

    /** It is about what was before. */
    public function isBefore(): bool
    {
        return false;
    }

    /** It runs along an attribute of the answer. */
    public function runs(): bool
    {
        return false;
    }

    /** It puts rows in order by the measure. */
    public function ranks(): bool
    {
        return false;
    }

    /** It is about the rows that are shown, and not about all that there are. */
    public function isOfShown(): bool
    {
        return false;
    }

    public function family(TypeFamily $measure): TypeFamily
    {
        return TypeFamily::Number;
    }

    public function unit(string $measure): string
    {
        return $measure;
    }

    /** How it is shown. */
    public function format(string $measure): string
    {
        return $measure;
    }

    /** @param list<string> $names */
    protected static function within(array $names): string
    {
        return [] === $names ? '' : ' within '.implode(', ', $names);
    }
}
