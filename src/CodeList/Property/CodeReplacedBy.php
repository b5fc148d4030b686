<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\CodeList\CodeLists;
use Fasti\Text\BadText;
use Fasti\Text\Property;

final class CodeReplacedBy extends Property
{
    public function __construct(private readonly CodeLists $lists)
    {
    }

    public function topic(): string
    {
        return 'code';
    }

    public function name(): string
    {
        return 'replacedBy';
    }

    public function label(): string
    {
        return 'replaced by';
    }

    public function column(): string
    {
        return 'replaced_by';
    }

    public function most(): int
    {
        return 190;
    }

    public function blank(): string
    {
        return 'replaced by';
    }

    public function check(string $value, int $id): void
    {
        if ('' !== $value && !$this->lists->hasBeside($id, $value)) {
            throw new BadText(\sprintf('This list has no other code “%s”. Add it first, or write a code that is there.', mb_strimwidth($value, 0, 60, '…')));
        }
    }
}
