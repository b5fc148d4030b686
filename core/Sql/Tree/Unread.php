<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** What could not be read, in place of a value. What is wrong with it is told by the fault at its place. */
final class Unread extends Expression
{
    public function __construct(
        public readonly string $text,
    ) {
    }
}
