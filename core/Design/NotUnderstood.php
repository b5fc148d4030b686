<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A piece of a line that says nothing that is understood there. */
final class NotUnderstood extends \RuntimeException
{
    /** @param list<string> $offers */
    public function __construct(string $message, public readonly ?Piece $piece = null, public readonly array $offers = [])
    {
        parent::__construct($message);
    }
}
