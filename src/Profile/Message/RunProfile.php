<?php

declare(strict_types=1);

namespace Fasti\Profile\Message;

final readonly class RunProfile
{
    public function __construct(public int $runId)
    {
    }
}
