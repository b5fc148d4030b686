<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/** By how much it is more than before. */
final class ChangeFrom extends Before
{
    public function name(): string
    {
        return 'change';
    }

    public function rank(): int
    {
        return 60;
    }

    public function help(): string
    {
        return 'by how much it is more than then';
    }

    public function inWords(Figure $figure): string
    {
        return 'change of '.$figure->measure.' from '.self::then($figure);
    }

    public function pattern(): string
    {
        return '/^change of (?<measure>.+?) from '.self::THEN.'$/iu';
    }

    public function family(TypeFamily $measure): TypeFamily
    {
        return TypeFamily::Whole === $measure ? $measure : TypeFamily::Number;
    }

    public function sql(AskSql $sql, string $value, string $before, string $windows): string
    {
        return "$value - $before";
    }
}
