<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

/** A statement that could not be read; `$offset` is the byte within it where reading got stuck. */
final class ScriptFault extends \RuntimeException
{
    public function __construct(string $message, public readonly int $offset)
    {
        parent::__construct($message);
    }
}
