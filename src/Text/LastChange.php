<?php

declare(strict_types=1);

namespace Fasti\Text;

/** Who changed a text last, when (UTC), and in which sitting. */
final readonly class LastChange
{
    public function __construct(
        public int $id,
        public int $account,
        public string $by,
        public string $at,
        public string $sitting,
    ) {
    }
}
