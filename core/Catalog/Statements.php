<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** How many statements of scripts were understood, which a catalog was read from. */
final readonly class Statements
{
    use With;

    /**
     * @param int          $understood carried out
     * @param int          $noted      not understood, so left out
     * @param int          $ofNoMatter say nothing about structure
     * @param list<string> $left       of those left out: line, what is wrong, and the statement without the values in it
     */
    public function __construct(public int $understood, public int $noted, public int $ofNoMatter, #[ListOf('string')] public array $left = [])
    {
    }

    public function and(self $other): self
    {
        return new self($this->understood + $other->understood, $this->noted + $other->noted, $this->ofNoMatter + $other->ofNoMatter, [...$this->left, ...$other->left]);
    }
}
