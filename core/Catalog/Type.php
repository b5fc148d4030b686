<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** A native type as its dialect reads it. Which one that is follows from the engine of the catalog; see Dialect::typeOf(). */
final readonly class Type
{
    /**
     * @param string       $written  exactly as the engine writes it
     * @param string       $name     the type alone, in small letters, without options: `decimal`, `timestamp with time zone`
     * @param ?int         $length   characters, bytes or bits it may hold; digits of a number, before and after the point
     * @param ?int         $scale    digits after the point; of a time, decimals of the second
     * @param ?int         $bits     of a whole number
     * @param list<string> $members  of an enumeration or a set, unquoted
     * @param bool         $array    it holds a list of such values
     * @param bool         $unsigned it holds nothing below zero
     * @param bool         $several  of its members, a value may hold more than one
     */
    public function __construct(
        public TypeFamily $family,
        public string $written,
        public string $name = '',
        public ?int $length = null,
        public ?int $scale = null,
        public ?int $bits = null,
        public array $members = [],
        public bool $array = false,
        public bool $unsigned = false,
        public bool $several = false,
    ) {
    }

    /** Of what a list of it holds, where it is a list. */
    public function isPlain(TypeFamily ...$families): bool
    {
        return !$this->array && \in_array($this->family, $families, true);
    }
}
