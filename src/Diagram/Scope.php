<?php

declare(strict_types=1);

namespace Fasti\Diagram;

/** What a diagram is of: a whole source, one of its schemas, or one entry with its neighbours. */
final readonly class Scope
{
    /** @param list<int> $beyond entries whose neighbours are there too */
    private function __construct(public ?int $source, public ?string $schema, public ?int $entry, public int $steps = 1, public array $beyond = [])
    {
    }

    public static function source(int $source, ?string $schema = null): self
    {
        return new self($source, $schema, null);
    }

    /** The name under which it is remembered how it was placed. */
    public function key(): string
    {
        return null === $this->entry
            ? "source {$this->source} ".(null === $this->schema ? '' : md5($this->schema))
            : "entry {$this->entry} {$this->steps} ".([] === $this->beyond ? '' : md5(implode(',', $this->beyond)));
    }

    /** @param list<int> $beyond */
    public static function entry(int $entry, int $steps = 1, array $beyond = []): self
    {
        return new self(null, null, $entry, max(1, min(4, $steps)), $beyond);
    }
}
