<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\GeneralType;

/** Values in the words of people and as an engine writes those of a type. */
final readonly class GivenValue
{
    public function __construct(private Dialect $dialect)
    {
    }

    /** @param string $native the type that it is of */
    public function written(string $value, GeneralType $type, string $native): string
    {
        $family = $this->dialect->typeOf(new Column('', $native))->family;
        $capabilities = $this->dialect->capabilities();
        $flag = 'yes or no' === $type->kind || TypeFamily::Flag === $family;

        return match (true) {
            $flag && \in_array(mb_strtolower($value), ['yes', 'true', '1'], true) => $capabilities->yes,
            $flag && \in_array(mb_strtolower($value), ['no', 'false', '0'], true) => $capabilities->no,
            TypeFamily::Time === $family && 'now' === $value => $capabilities->now($native),
            TypeFamily::Time === $family && 'today' === $value => $capabilities->today,
            $family->isNumeric() && 1 === preg_match('/^-?\d+(\.\d+)?$/', $value) => $value,
            default => $this->dialect->writing()->literal($value),
        };
    }

    /** The value that is written so; null for what is an expression. */
    public function said(string $sql, GeneralType $type, string $native): ?string
    {
        $tries = ['now', 'today', 'yes', 'no', $sql];
        if (1 === preg_match("/^'(.*)'$/s", $sql, $m)) {
            array_push($tries, str_replace("''", "'", $m[1]), stripslashes(str_replace("''", "'", $m[1])));
        }
        foreach ($tries as $try) {
            if ($this->written($try, $type, $native) === $sql) {
                return $try;
            }
        }

        return null;
    }
}
