<?php

declare(strict_types=1);

namespace Fasti\Term;

/** A term as pages show it. */
final readonly class TermView
{
    public function __construct(
        public int $id,
        public string $name,
        public string $area,
        public string $definition,
        public string $synonyms,
        public string $broader,
        public string $related,
        public string $owner,
        public string $standing,
    ) {
    }

    /** @return non-empty-list<string> the word and the other words for it */
    public function words(): array
    {
        return [$this->name, ...Terms::list($this->synonyms)];
    }
}
