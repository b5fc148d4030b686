<?php

declare(strict_types=1);

namespace Fasti\Source;

/** What other rooms ask about a source; its engine as its last survey said, and when that was (UTC). */
final readonly class KnownSource
{
    public function __construct(
        public int $id,
        public string $name,
        public string $purpose,
        public string $owner,
        public string $engine,
        public ?string $surveyedAt,
    ) {
    }
}
