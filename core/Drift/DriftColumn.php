<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;

/** What became of one column of a DriftItem. */
final readonly class DriftColumn
{
    /**
     * @param string       $from   the old name of a renamed one
     * @param string       $reason why a renamed one is taken for the same
     * @param list<string> $words  what changed
     */
    public function __construct(
        public Fate $change,
        public string $name,
        #[WhenSet] public string $from = '',
        #[WhenSet] public string $reason = '',
        #[ListOf('string'), WhenSet] public array $words = [],
    ) {
    }

    /** The name that it had before. */
    public function before(): string
    {
        return '' === $this->from ? $this->name : $this->from;
    }
}
