<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Join\Sentence;

/** What an entry goes with over a table that links both. */
final readonly class Across
{
    public function __construct(public Sentence $sentence, public int $other, public int $link)
    {
    }
}
