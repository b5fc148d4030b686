<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Column;

/** What became of one column. A renamed one has both sides and may have changed besides. */
final readonly class ColumnDrift
{
    /**
     * @param list<string> $words  what changed, a short sentence each
     * @param string       $reason why a renamed one is taken for the same
     */
    public function __construct(public Fate $change, public ?Column $before, public ?Column $after, public array $words = [], public string $reason = '')
    {
    }

    public function name(): string
    {
        return $this->after->name ?? $this->before->name ?? '';
    }
}
