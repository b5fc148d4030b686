<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/** The same so many days, months, years before: as if all dates were that much later. */
class Before extends Companion
{
    public function name(): string
    {
        return 'before';
    }

    public function rank(): int
    {
        return 50;
    }

    public function help(): string
    {
        return 'the same as it was then';
    }

    public function inWords(Figure $figure): string
    {
        return $figure->measure.' '.self::then($figure);
    }

    protected static function then(Figure $figure): string
    {
        return ($figure->span?->inWords($figure->many) ?? '').' before'.('' === $figure->along ? '' : ' by '.$figure->along);
    }

    public function pattern(): string
    {
        return '/^(?<measure>.+?),? '.self::THEN.'$/iu';
    }

    protected const THEN = '(?<many>an?|\d{1,4}) (?<span>day|week|month|quarter|year)s? before(?: by (?<along>.+))?';

    public function isBefore(): bool
    {
        return true;
    }

    public function family(TypeFamily $measure): TypeFamily
    {
        return $measure;
    }

    public function sql(AskSql $sql, string $value, string $before, string $windows): string
    {
        return $before;
    }
}
