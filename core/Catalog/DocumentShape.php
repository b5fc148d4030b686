<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** One of the distinct shapes that the documents of a collection have. */
final readonly class DocumentShape
{
    /**
     * @param list<string> $always    paths of the members that every document of this shape has
     * @param list<string> $sometimes paths of those that some have
     * @param string       $example   the first such document, as JSON
     * @param int          $first     its number in the collection, from 1
     * @param int          $last      that of the last such document
     */
    public function __construct(
        public int $count,
        #[ListOf('string')]
        public array $always,
        #[ListOf('string')]
        public array $sometimes,
        public string $example,
        public int $first,
        public int $last,
    ) {
    }
}
