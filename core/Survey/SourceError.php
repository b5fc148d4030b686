<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/** Something went wrong at the source. The message says what and where, the advice what to do next. */
final class SourceError extends \RuntimeException
{
    /** A statement took longer than it may. */
    public const OVER_TIME = 'over time';
    /** The connection broke: nothing more can be asked. */
    public const LOST = 'lost';

    /** @param string $what OVER_TIME, LOST, or '' for anything else */
    public function __construct(string $message, public readonly string $advice, ?\Throwable $previous = null, public readonly string $what = '')
    {
        parent::__construct($message, 0, $previous);
    }

    public function inWords(): string
    {
        return trim($this->getMessage().' '.$this->advice);
    }
}
