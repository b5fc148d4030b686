<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Fasti\Register\RegisterList;

final readonly class CodeListList implements RegisterList
{
    public function __construct(private CodeLists $lists)
    {
    }

    public function name(): string
    {
        return 'Code lists';
    }

    public function route(): string
    {
        return 'code_lists';
    }

    public function count(): int
    {
        return $this->lists->count();
    }

    public function place(): int
    {
        return 64;
    }
}
