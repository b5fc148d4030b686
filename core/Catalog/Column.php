<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * One column, as the catalog of the source describes it.
 *
 * `type` is the native type exactly as the engine writes it. `default` is an SQL expression of the source's
 * dialect (a text literal keeps its quotes), or null when there is none. `charset` and `collation` are set only
 * where they differ from those of the table. `base` is what a domain or named type of the source stands for:
 * `numeric(6,2)`, or `enum('G','S')`. `seen` is set for members of documents and fields of files, whose type was worked
 * out from what they hold.
 */
final readonly class Column
{
    use With;

    public function __construct(
        public string $name,
        public string $type,
        public bool $nullable = true,
        public ?string $default = null,
        public string $comment = '',
        public bool $autoNumbered = false,
        public ?Generated $generated = null,
        public ?string $onUpdate = null,
        #[Fact('', changed: 'its letters are kept as %s (was %s)', unsaid: 'the table\'s are', wasUnsaid: 'the table\'s')]
        public ?string $charset = null,
        #[Fact('', changed: 'it is sorted as %s (was %s)', unsaid: 'the table is', wasUnsaid: 'the table')]
        public ?string $collation = null,
        #[WhenSet]
        public ?string $base = null,
        #[WhenSet, OfTheMoment]
        public ?Seen $seen = null,
    ) {
    }
}
