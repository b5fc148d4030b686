<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\ProfileSql;

/** So many characters. */
final readonly class Long implements Part
{
    /** @param ?int $most null for any number */
    public function __construct(public int $least, public ?int $most)
    {
    }

    public function fits(string $value): bool
    {
        $length = mb_strlen($value);

        return $length >= $this->least && (null === $this->most || $length <= $this->most);
    }

    public function sql(ProfileSql $sql, Column $column, TypeFamily $family): string
    {
        $length = $sql->length($sql->quoted($column->name));

        return null === $this->most ? "$length >= {$this->least}" : "$length BETWEEN {$this->least} AND {$this->most}";
    }

    public function words(): string
    {
        $characters = static fn (int $n): string => 1 === $n ? ' character' : ' characters';

        return match (true) {
            null === $this->most => 'at least '.$this->least.$characters($this->least),
            0 === $this->least => 'at most '.$this->most.$characters($this->most),
            $this->least === $this->most => $this->least.$characters($this->least),
            default => $this->least.' to '.$this->most.' characters',
        };
    }
}
