<?php

declare(strict_types=1);

namespace Fasti\Text;

/** What came of saving a text. Where it was not saved, the text that stands there now, who wrote it and when. */
final readonly class Saved
{
    public function __construct(
        public bool $saved,
        public string $value,
        public ?int $change = null,
        public ?string $by = null,
        public ?string $at = null,
    ) {
    }
}
