<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/** Thrown by a Progress when a person has asked for the work to stop. */
final class Stopped extends \RuntimeException
{
    public function __construct()
    {
        parent::__construct('Stopped on request.');
    }
}
