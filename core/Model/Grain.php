<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

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
}
