<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/** One way to a draft of a text about a field. A class a rule, in Rule/; listed in Drafts. */
interface Rule
{
    /** As decisions about its drafts are counted: `from-like-field`. */
    public function name(): string;

    /** @return iterable<Draft> */
    public function of(Field $field): iterable;
}
