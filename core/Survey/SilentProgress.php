<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/** Progress that nobody listens to. */
final class SilentProgress implements Progress
{
    public function at(string $what, int $done, int $total): void
    {
    }
}
