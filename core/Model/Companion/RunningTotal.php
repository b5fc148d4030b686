<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/** All up to a row, along an attribute; begun anew within another: the year to date. */
final class RunningTotal extends Companion
{
    public function name(): string
    {
        return 'running total';
    }

    public function rank(): int
    {
        return 30;
    }

    public function help(): string
    {
        return 'all up to there; within the year, the year to date';
    }

    public function inWords(Figure $figure): string
    {
        return 'running '.$figure->measure.' along '.$figure->along.self::within($figure->within);
    }

    public function pattern(): string
    {
        return '/^running (?<measure>.+?) along (?<along>.+?)(?: within (?<within>.+))?$/iu';
    }

    public function adds(): bool
    {
        return true;
    }

    public function runs(): bool
    {
        return true;
    }

    public function sql(AskSql $sql, string $value, string $before, string $windows): string
    {
        return "SUM($value) OVER ($windows ROWS UNBOUNDED PRECEDING)";
    }
}
