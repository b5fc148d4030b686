<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\With;

/** How a trial is answered: one query that cannot multiply rows, and what is asked around it. */
final readonly class Plan
{
    use With;

    /**
     * @param list<SqlLine>    $lines
     * @param list<PlanColumn> $columns   in the order of the answer
     * @param list<Guard>      $guards
     * @param list<Reckoning>  $alone
     * @param list<Losses>     $losses    one for each fact that is joined to something
     * @param list<string>     $facts     roles whose rows are read
     * @param list<string>     $reads     roles that are looked up beside them
     * @param array<string, Composition> $compositions measures that are computed of others
     * @param ?self            $total     the same without splitting, where the answer is split
     * @param list<self>           $subtotals the same split by what comes first, by the first two, and so on
     * @param list<NamedText>      $named     texts that its conditions name
     * @param ?int                 $othersAt  the column that says it of the others: the first by which they are not told apart
     * @param list<Uncovered>      $uncovered days that calendars may not have
     * @param list<string>         $notes     what whoever reads the answer has to know
     * @param bool                 $others    one column more says of how many rows of the answer a row is put together; 0 for one of its own
     */
    public function __construct(
        public Trial $trial,
        public array $lines,
        public array $columns,
        public array $guards,
        public array $alone,
        public array $losses,
        public array $facts,
        public array $reads,
        public array $compositions = [],
        public ?self $total = null,
        public array $subtotals = [],
        public array $named = [],
        public array $uncovered = [],
        public array $notes = [],
        public bool $others = false,
        public ?int $othersAt = null,
    ) {
    }

    public function sql(): string
    {
        return implode("\n", array_map(static fn (SqlLine $line): string => $line->text, $this->lines));
    }
}
