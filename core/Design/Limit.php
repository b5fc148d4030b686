<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A bound of an attribute: by another attribute of the same thing, or by a value. */
final readonly class Limit
{
    public const WORDS = [
        'not before' => '>=',
        'not after' => '<=',
        'after' => '>',
        'before' => '<',
        'at least' => '>=',
        'at most' => '<=',
        'more than' => '>',
        'less than' => '<',
    ];

    /** @param bool $value `than` is a value rather than the name of an attribute */
    public function __construct(public string $words, public string $than, public bool $value = false)
    {
    }
}
