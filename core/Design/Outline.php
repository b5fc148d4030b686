<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A text that was read as an outline: what it says, where each thing is said, and what is not understood. */
final readonly class Outline
{
    /**
     * @param list<string>    $lines
     * @param list<Statement> $statements in the order of the text, without gaps
     * @param list<Fault>     $faults
     */
    public function __construct(public array $lines, public array $statements, public Design $design, public array $faults)
    {
    }

    public static function read(string $text): self
    {
        return (new OutlineReader())->read($text);
    }

    /** Something in its lines is not understood, so that it cannot be written anew without losing it. */
    public function isBroken(Statement $statement): bool
    {
        foreach ($this->faults as $fault) {
            if ($fault->line > $statement->from && $fault->line <= $statement->to + 1) {
                return true;
            }
        }

        return false;
    }

    /** @return list<int> numbers of the statements within a block */
    public function within(int $statement): array
    {
        return array_keys(array_filter($this->statements, static fn (Statement $each): bool => $each->in === $statement));
    }
}
