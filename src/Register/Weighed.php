<?php

declare(strict_types=1);

namespace Fasti\Register;

/** What makes an entry worth describing. */
final readonly class Weighed
{
    public function __construct(
        public string $name,
        public string $schema,
        public string $title,
        public int $rows,
        public bool $described,
    ) {
    }
}
