<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/** By how many per cent of what was before it is more. Of nothing, and of less than nothing, there are no per cent. */
final class ChangeInPerCent extends Before
{
    public function name(): string
    {
        return 'change in per cent';
    }

    public function rank(): int
    {
        return 70;
    }

    public function help(): string
    {
        return 'by how many per cent it is more than then';
    }

    public function inWords(Figure $figure): string
    {
        return 'change in per cent of '.$figure->measure.' from '.self::then($figure);
    }

    public function pattern(): string
    {
        return '/^change in per cent of (?<measure>.+?) from '.self::THEN.'$/iu';
    }

    public function family(TypeFamily $measure): TypeFamily
    {
        return TypeFamily::Number;
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
        return "CASE WHEN $before > 0 THEN ".$sql->divided("($value - $before)", $before).' END';
    }
}
