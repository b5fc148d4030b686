<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

/** A unit of measure: how it is written, how it is said, and what it is a measure of. */
final readonly class Unit
{
    /**
     * @param string $symbol  as UCUM prints it, with a superscript where there is one: `km²`
     * @param string $plural  "square kilometres"
     * @param string $measure what it measures, so that units of one measure can be turned into one another: "area"
     * @param float  $factor  of the measure's first unit; 0 where it takes more than a factor
     */
    public function __construct(public string $symbol, public string $plural, public string $measure, public float $factor)
    {
    }
}
