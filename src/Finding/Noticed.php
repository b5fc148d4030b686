<?php

declare(strict_types=1);

namespace Fasti\Finding;

/** What a check noticed, in terms of the register. With other evidence it is another finding, which nobody has set aside yet. */
final readonly class Noticed
{
    public function __construct(
        public int $entry,
        public ?int $field,
        public string $title,
        public string $group = '',
        public string $property = '',
        public string $evidence = '',
    ) {
    }
}
