<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

interface Progress
{
    /**
     * Says what is being read and how far it is. Called often; an implementation decides how often to pass it on.
     *
     * @param int $done of `$total` units; a total of 0 means that it is not known yet
     *
     * @throws Stopped when the work has been cancelled
     */
    public function at(string $what, int $done, int $total): void;
}
