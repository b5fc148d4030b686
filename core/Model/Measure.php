<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Catalog\With;
use Fasti\Core\Model\Aggregate\Aggregate;

/** A figure that a model offers. */
final readonly class Measure
{
    use With;

    /**
     * @param string       $fact       the role whose rows it is taken of; '' for a ratio
     * @param string       $expression over the fields of the fact, in SQL's own words; '' for the count of all rows
     * @param string       $filter     a condition on the rows that count; '' for all
     * @param string       $of         of a ratio: the measure that is divided
     * @param string       $by         of a ratio: the measure that it is divided by
     * @param string       $format     how it is shown: decimals, `0`, `0.0`, `0 %`, with a currency `0.00 €`; '' as it comes
     * @param list<string> $notOver    roles over which it must not be added up, where it adds over some
     * @param ?Level       $instant    the attribute whose values are the points at which such a figure stands: the date of a stock
     * @param string       $reason     why it may not be added up
     * @param string       $folder     a group in which people find it; '' for that of its fact
     * @param bool         $hidden     it is not offered, and only part of others
     * @param list<string> $also       other words for it
     * @param string       $owner      who answers for it
     */
    public function __construct(
        public string $name,
        public Aggregate $aggregation,
        #[WhenSet]
        public string $fact = '',
        #[WhenSet]
        public string $expression = '',
        #[WhenSet]
        public string $filter = '',
        #[WhenSet]
        public string $of = '',
        #[WhenSet]
        public string $by = '',
        #[WhenSet]
        public string $meaning = '',
        #[WhenSet]
        public string $unit = '',
        #[WhenSet]
        public string $format = '',
        public Additivity $adds = Additivity::Additive,
        #[ListOf('string'), WhenSet]
        public array $notOver = [],
        #[WhenSet]
        public ?Level $instant = null,
        #[WhenSet]
        public Instead $instead = Instead::Nothing,
        #[WhenSet]
        public string $reason = '',
        #[WhenSet]
        public string $folder = '',
        #[WhenSet]
        public bool $hidden = false,
        #[ListOf('string'), WhenSet]
        public array $also = [],
        #[WhenSet]
        public string $owner = '',
    ) {
        if ('' === trim($name)) {
            throw new \InvalidArgumentException('A measure needs a name.');
        }
    }
}
