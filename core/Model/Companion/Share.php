<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Figure;

/** Of all rows of the answer, or of those that share what it is within. */
class Share extends Companion
{
    public function name(): string
    {
        return 'share';
    }

    public function rank(): int
    {
        return 10;
    }

    public function help(): string
    {
        return 'of all there is, or of all within something: a station of its reach';
    }

    public function inWords(Figure $figure): string
    {
        return 'share of '.$figure->measure.self::within($figure->within);
    }

    public function pattern(): string
    {
        return '/^share of (?<measure>.+?)(?: within (?<within>.+))?$/iu';
    }

    public function adds(): bool
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
