<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** What could not be read, in place of a table. */
final class UnreadSource extends Source
{
    public function __construct(
        public readonly string $text,
    ) {
    }
}
