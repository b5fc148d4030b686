<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/** The place among the rows, the greatest first. Equals share a place and the next ones are left out; what has no figure has no place. */
final class RankOf extends Companion
{
    public function name(): string
    {
        return 'rank';
    }

    public function rank(): int
    {
        return 40;
    }

    public function help(): string
    {
        return 'its place, the greatest first; equals share one';
    }

    public function inWords(Figure $figure): string
    {
        return 'rank of '.$figure->measure.self::within($figure->within);
    }

    public function pattern(): string
    {
        return '/^rank of (?<measure>.+?)(?: within (?<within>.+))?$/iu';
    }

    public function ranks(): bool
    {
        return true;
    }

    public function family(TypeFamily $measure): TypeFamily
    {
        return TypeFamily::Whole;
    }

    public function unit(string $measure): string
    {
        return '';
    }

    public function format(string $measure): string
    {
        return '0';
    }

    public function sql(AskSql $sql, string $value, string $before, string $windows): string
    {
        return "CASE WHEN $value IS NOT NULL THEN RANK() OVER ($windows) END";
    }
}
