<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/** Something went wrong at the source. The message says what and where, the advice what to do next. */
final class SourceError extends \RuntimeException
{
    public function __construct(string $message, public readonly string $advice, ?\Throwable $previous = null)
    {
        parent::__construct($message, 0, $previous);
    }

    public function inWords(): string
    {
        return trim($this->getMessage().' '.$this->advice);
    }
}
