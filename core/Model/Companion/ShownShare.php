<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/** Of the rows that are shown: what conditions on figures and the number of rows leave out does not count. */
final class ShownShare extends Companion
{
    public function name(): string
    {
        return 'shown share';
    }

    public function rank(): int
    {
        return 20;
    }

    public function help(): string
    {
        return 'of the rows that are shown';
    }

    public function inWords(Figure $figure): string
    {
        return 'shown share of '.$figure->measure.self::within($figure->within);
    }

    public function pattern(): string
    {
        return '/^shown share of (?<measure>.+?)(?: within (?<within>.+))?$/iu';
    }

    public function adds(): bool
    {
        return true;
    }

    public function isOfShown(): bool
    {
        return true;
    }

    public function unit(string $measure): string
    {
        return '';
    }

    public function format(string $measure): string
    {
        return '0.0 %';
    }

    public function sql(AskSql $sql, string $value, string $before, string $windows): string
    {
        return $sql->divided($value, "SUM($value) OVER ($windows)");
    }
}
