<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What of an outline was not understood: where, why, and what would be. */
final readonly class Fault
{
    /**
     * @param int          $line   from 1
     * @param int          $column in characters from 0, and how many it is about
     * @param list<string> $offers what could stand there instead
     */
    public function __construct(public int $line, public int $column, public int $length, public string $message, public array $offers = [])
    {
    }

    public function __toString(): string
    {
        $new = array_filter($this->offers, fn (string $offer): bool => !str_contains($this->message, $offer));
        $offers = [] === $new ? '' : ' Here would be understood: '.implode('; ', $new).'.';

        return \sprintf('Line %d: %s%s', $this->line, $this->message, $offers);
    }

    /** @return array{line: int, column: int, length: int, message: string, offers: list<string>} */
    public function open(): array
    {
        return ['line' => $this->line, 'column' => $this->column, 'length' => $this->length, 'message' => $this->message, 'offers' => $this->offers];
    }
}
