<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;

/** Which rows a trial looks at, by an attribute; or which rows of its answer it shows, by a measure. */
final readonly class Condition
{
    /**
     * @param string       $what   an attribute or a measure, as the model names it
     * @param list<string> $values as people write them: numbers, texts, dates, years and months; of Test::During words such as "last year"
     * @param list<string> $facts  those that it holds for; none for all
     */
    public function __construct(
        public string $what,
        public Test $test,
        #[ListOf('string'), WhenSet]
        public array $values = [],
        #[ListOf('string'), WhenSet]
        public array $facts = [],
    ) {
    }
}
