<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** How a script is to be written. */
final readonly class ScriptOptions
{
    /**
     * @param ?string $schema   what stands before each name; null for the schemas of the catalog itself where it has several
     * @param bool    $drop     what is there is dropped first
     * @param bool    $comments meanings go into the database, where it keeps comments
     * @param bool    $quoted   every name is quoted, not only those that need it
     * @param bool    $places   names say their schema
     */
    public function __construct(
        public ?string $schema = null,
        public bool $drop = false,
        public bool $comments = true,
        public bool $quoted = false,
        public bool $places = false,
    ) {
    }
}
