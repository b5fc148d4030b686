<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Wording\Enumeration;

/** Of what rows the amounts of a measure are, which its fact leads to. */
final readonly class Grain
{
    /**
     * @param list<string>                $elsewhere roles in which its amounts stand, and none of them in the fact: each counts once for each row of the fact
     * @param list<string>                $factors   roles of which a field only multiplies or divides what stands in the fact
     * @param array{string, string}|null  $mixed     the fact and a role whose amounts are put together with its own
     */
    public function __construct(public array $elsewhere = [], public array $factors = [], public ?array $mixed = null)
    {
    }

    /** For whoever writes the expression over a fact; '' where all stands in the fact. */
    public function inWords(string $fact): string
    {
        return match (true) {
            null !== $this->mixed => \sprintf(
                'What stands in %1$s is put together with what stands in %2$s, and would count once for each row of %2$s: make two measures of it.',
                $this->mixed[1],
                $this->mixed[0],
            ),
            [] !== $this->elsewhere => \sprintf(
                'It stands in %1$s, and would count once for each row of %2$s: make %1$s a fact, and take it there.',
                $this->elsewhere[0],
                $fact,
            ),
            [] !== $this->factors => \sprintf('What stands in %s is a factor for each row of %s.', Enumeration::of($this->factors), $fact),
            default => '',
        };
    }
}
