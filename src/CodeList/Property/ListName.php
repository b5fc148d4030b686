<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\CodeList\CodeLists;
use Fasti\Text\Property;

final class ListName extends Property
{
    public function __construct(private readonly CodeLists $lists)
    {
    }

    public function topic(): string
    {
        return 'code-list';
    }

    public function name(): string
    {
        return 'name';
    }

    public function label(): string
    {
        return 'name of the code list';
    }

    public function column(): string
    {
        return 'name';
    }

    public function most(): int
    {
        return 120;
    }

    public function check(string $value, int $id): void
    {
        $this->lists->checkName($value, $id);
    }
}
