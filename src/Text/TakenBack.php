<?php

declare(strict_types=1);

namespace Fasti\Text;

/** A text that stands again as it did before a change. */
final readonly class TakenBack
{
    public function __construct(
        public string $topic,
        public int $id,
        public string $property,
        public string $value,
    ) {
    }
}
