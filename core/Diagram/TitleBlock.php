<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** What every diagram says of itself. */
final readonly class TitleBlock
{
    public function __construct(
        public string $name,
        public string $purpose = '',
        public string $source = '',
        public string $author = '',
        public string $date = '',
        public string $edition = '',
    ) {
    }
}
