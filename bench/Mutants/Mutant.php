<?php

declare(strict_types=1);

namespace Fasti\Bench\Mutants;

/** One small mistake in one file: what stands there, and what is put in its place. */
final readonly class Mutant
{
    /** @param int $from the place of its first byte */
    public function __construct(
        public string $file,
        public int $line,
        public string $kind,
        public int $from,
        public int $length,
        public string $by,
        public string $was,
        public string $context,
    ) {
    }

    /** The same for as long as its line is the same, wherever that stands. */
    public function id(): string
    {
        return substr(hash('xxh128', implode("\0", [$this->file, $this->kind, $this->context, $this->was, $this->by])), 0, 12);
    }

    public function words(): string
    {
        $short = static fn (string $text): string => mb_strimwidth((string) preg_replace('/\s+/', ' ', $text), 0, 60, '…');

        return \sprintf('%s:%d  %s  %s → %s', $this->file, $this->line, $this->kind, $short($this->was), '' === $this->by ? 'nothing' : $short($this->by));
    }

    public function in(string $code): string
    {
        return substr($code, 0, $this->from).$this->by.substr($code, $this->from + $this->length);
    }
}
