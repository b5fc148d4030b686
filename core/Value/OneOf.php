<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

/** One of some values, or of the codes of a list. */
final readonly class OneOf implements Part
{
    /** @var array<array-key, true> */
    private array $known;

    /**
     * @param list<string> $values
     * @param string       $list   name of the code list that has them; '' where they were written out
     */
    public function __construct(public array $values, public string $list = '')
    {
        $this->known = array_fill_keys($values, true);
    }

    public function fits(string $value): bool
    {
        return isset($this->known[$value]);
    }

    public function sql(ProfileSql $sql, Column $column, TypeFamily $family): string
    {
        $name = $sql->quoted($column->name);
        if ([] === $this->values) {
            return '1 = 0';
        }
        $numbers = $family->isNumeric() && [] === array_filter($this->values,
            static fn (string $value): bool => 1 !== preg_match('/^-?\d{1,18}(\.\d{1,18})?$/D', $value));
        $literals = array_map(static fn (string $value): string => $numbers ? $value : $sql->literal($value), $this->values);

        return ($numbers ? $name : $sql->exact($column, $name)).' IN ('.implode(', ', $literals).')';
    }

    public function words(): string
    {
        return '' !== $this->list ? 'code list '.$this->list : 'one of '.implode(', ', array_map(Allowed::quoted(...), $this->values));
    }
}
