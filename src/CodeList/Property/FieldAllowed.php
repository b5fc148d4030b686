<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\CodeList\CodeLists;
use Fasti\Core\Value\Allowed;
use Fasti\Core\Value\AllowedError;
use Fasti\Text\BadText;
use Fasti\Text\Property;

/** Which values a field may hold; see Allowed for how it is written. It is checked against the data with each profile. */
final class FieldAllowed extends Property
{
    public function __construct(private readonly CodeLists $lists)
    {
    }

    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'allowed';
    }

    public function label(): string
    {
        return 'allowed values';
    }

    public function most(): int
    {
        return 15000;
    }

    public function blank(): string
    {
        return '0 to 100, one of G, S, B, code list NAME, 6 characters';
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }

    public function check(string $value, int $id): void
    {
        try {
            if ('' !== $value) {
                Allowed::parse($value, $this->lists->codesOf(...));
            }
        } catch (AllowedError $e) {
            throw new BadText(0 === $e->at ? $e->getMessage() : \sprintf('At character %d: %s', $e->at + 1, $e->getMessage()));
        }
    }
}
