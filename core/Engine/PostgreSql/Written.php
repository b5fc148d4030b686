<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

/** Part of an expression as the server would write it, and its type. */
final readonly class Written
{
    /**
     * @param string  $type    the server's short name, `unknown` for a text whose type follows from its use
     * @param ?string $value   of a constant, not yet quoted; null for what is computed, and for NULL
     * @param bool    $null    it is the constant NULL
     * @param ?string $hidden  the same without the cast that the server has put round it, where there is one
     */
    public function __construct(
        public string $sql,
        public string $type,
        public ?string $value = null,
        public bool $null = false,
        public ?string $hidden = null,
    ) {
    }

    public function isConstant(): bool
    {
        return null !== $this->value || $this->null;
    }

    /** Where casts that nobody wrote are not shown. */
    public function plain(): string
    {
        return $this->hidden ?? $this->sql;
    }
}
