<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;

/** Which of several routes from a fact to another role the model takes. */
final readonly class Choice
{
    /** @param list<string> $by keys of joins, from the fact on */
    public function __construct(
        public string $from,
        public string $to,
        #[ListOf('string')]
        public array $by,
    ) {
    }
}
