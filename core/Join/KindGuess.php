<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** What an entry seems to be, with the reason in words. */
final readonly class KindGuess
{
    /**
     * @param list<string> $traits `refers to itself`, `archive of reading`, `history of station`, `with properties of its own`
     * @param string       $key    what tells its rows apart: natural, surrogate, of what it links; '' without a key
     */
    public function __construct(public EntryKind $kind, public string $reason, public array $traits, public string $key)
    {
    }
}
