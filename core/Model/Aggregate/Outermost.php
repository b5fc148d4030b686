<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Additivity;

/** The first or the last of the values in their order: of numbers, texts, moments. */
abstract class Outermost extends Aggregate
{
    /** MIN or MAX. */
    abstract protected function function(): string;

    public function inWords(): string
    {
        return 'the '.$this->name();
    }

    public function needsNumbers(): bool
    {
        return false;
    }

    public function isValue(): bool
    {
        return true;
    }

    public function family(TypeFamily $values): TypeFamily
    {
        return $values;
    }

    public function sql(AskSql $sql, ?string $value): string
    {
        return $this->function()."($value)";
    }

    public function inParts(AskSql $sql, ?string $value, string $number): array
    {
        return [["m$number" => $this->sql($sql, $value)], $this->function()."(grouped.m$number)"];
    }

    public function why(): string
    {
        return \sprintf('its name says that it is %s of something', $this->inWords());
    }

    public function additivity(): Additivity
    {
        return Additivity::Additive;
    }

    /** One value more of the same changes nothing. */
    public function shared(AskSql $sql, ?string $value, string $part): string
    {
        return $this->sql($sql, $value);
    }
}
