<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

/** A statement that could not be read; `$offset` is the byte within it where reading got stuck. */
final class SqlFault extends \RuntimeException
{
    public function __construct(string $message, public readonly int $offset)
    {
        parent::__construct($message);
    }
}
