<?php

declare(strict_types=1);

namespace Fasti\Core\Term;

/** A place of a text where a term stands. Offsets are bytes. */
final readonly class Found
{
    /** @param non-empty-list<int> $terms several where a word has several meanings */
    public function __construct(public int $from, public int $length, public array $terms)
    {
    }
}
