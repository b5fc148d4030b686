<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** What a general type becomes in an engine. */
final readonly class Native
{
    /**
     * @param string $check   what a value has to meet besides, with %s for the column; '' for nothing
     * @param string $warning what the engine cannot hold of what was said
     */
    public function __construct(public string $type, public string $check = '', public string $warning = '')
    {
    }

    public function with(string $check = '', string $warning = ''): self
    {
        return new self($this->type, implode(' AND ', array_filter([$this->check, $check])), implode(' ', array_filter([$this->warning, $warning])));
    }
}
