<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Join\Evidence;
use Fasti\Core\Join\JoinFigures;

/** What is known of a join besides what it joins. */
final readonly class Known
{
    /**
     * @param list<Evidence> $evidence
     * @param list<Example>  $examples
     * @param ?string        $lookedAt   in UTC as the database writes it
     * @param ?string        $observedAt the same
     */
    public function __construct(
        public array $evidence = [],
        public array $examples = [],
        public ?string $lookedAt = null,
        public ?JoinFigures $figures = null,
        public ?string $observedAt = null,
    ) {
    }
}
