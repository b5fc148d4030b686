<?php

declare(strict_types=1);

namespace Fasti\Edition\Message;

final readonly class MakeEdition
{
    public function __construct(public int $editionId)
    {
    }
}
