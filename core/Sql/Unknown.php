<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

/** Something in a query that was not understood: its place, in bytes from the beginning, and what it is, in a sentence. */
final readonly class Unknown
{
    public function __construct(public int $at, public string $what)
    {
    }

    /** @return string `line:column`, both from 1, the column in characters */
    public function place(string $text): string
    {
        $before = substr($text, 0, $this->at);
        $begins = strrpos($before, "\n");

        return (substr_count($before, "\n") + 1).':'.(mb_strlen(false === $begins ? $before : substr($before, $begins + 1)) + 1);
    }
}
