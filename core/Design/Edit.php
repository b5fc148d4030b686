<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** A change of an outline as it is asked for: what is to be done, to what, and what is said of it. */
final readonly class Edit
{
    /**
     * @param string $what as Edits::of() names it: "add thing", "set attribute" …
     * @param string $of   a thing by its name, or a sentence by the number of its line
     * @param string $name the name concerned, or the line
     * @param string  $said    words as they stand in an outline
     * @param ?string $meaning what an attribute means; null where that stays
     */
    public function __construct(public string $what, public string $of = '', public string $name = '', public string $said = '', public ?string $meaning = null)
    {
    }
}
