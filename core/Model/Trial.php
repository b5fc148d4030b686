<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Catalog\With;

/** A question put to a model. Names are those of the model. */
final readonly class Trial
{
    use With;

    /**
     * @param list<string>    $measures
     * @param list<string>    $by       attributes
     * @param list<Condition> $where
     * @param list<Sorting>   $order
     * @param ?int            $limit    rows that are shown; null for as many as may be
     * @param list<Figure>    $figures  what stands beside measures
     * @param list<string>    $each     attributes: so many rows are shown for each of their values
     * @param bool            $subtotals of what comes first among what it is split by there are figures of their own, too
     * @param bool            $others   what is not among them is put together in one row
     */
    public function __construct(
        #[ListOf('string')]
        public array $measures,
        #[ListOf('string'), WhenSet]
        public array $by = [],
        #[ListOf(Condition::class), WhenSet]
        public array $where = [],
        #[ListOf(Sorting::class), WhenSet]
        public array $order = [],
        #[WhenSet]
        public ?int $limit = null,
        #[ListOf(Figure::class), WhenSet]
        public array $figures = [],
        #[ListOf('string'), WhenSet]
        public array $each = [],
        #[WhenSet]
        public bool $others = false,
        #[WhenSet]
        public bool $subtotals = false,
    ) {
    }

    /** @return list<string> all that is shown, as it is asked for, in the order of the answer: what stands beside a measure follows it */
    public function shown(): array
    {
        $shown = [];
        foreach ($this->measures as $measure) {
            $shown[] = $measure;
            foreach ($this->figures as $figure) {
                if (ModelNames::folded($figure->measure) === ModelNames::folded($measure)) {
                    $shown[] = $figure->inWords();
                }
            }
        }
        foreach ($this->figures as $figure) {
            if (!\in_array($figure->inWords(), $shown, true)) {
                $shown[] = $figure->inWords();
            }
        }

        return $shown;
    }

    /** @return list<string> all that it is split by, and all that conditions on it are about: attributes and measures, as it names them */
    public function named(): array
    {
        return array_values(array_unique([...$this->by, ...array_merge([], ...array_map(self::about(...), $this->where))]));
    }

    /** @return list<string> */
    private static function about(Condition $condition): array
    {
        return $condition->test->isOfOthers() || $condition->test->isElsewhere()
            ? array_merge([], ...array_map(self::about(...), $condition->of)) : [$condition->what];
    }
}
