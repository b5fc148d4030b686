<?php

declare(strict_types=1);

namespace Fasti\Core\Value;

/** What is said of allowed values is not understood; the message says what, and what would be. */
final class AllowedError extends \RuntimeException
{
    /** @param int $at the character at which it is not understood, from 0 */
    public function __construct(string $message, public readonly int $at = 0)
    {
        parent::__construct($message);
    }
}
