<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** What the data says about a candidate. */
final readonly class DataEvidence
{
    /**
     * @param int          $values   different values that were looked for
     * @param int          $found    of them, at the other end
     * @param ?int         $rows     that refer, where all rows were counted
     * @param ?int         $orphans  of them, those that lead nowhere
     * @param ?int         $used     different keys that are referred to
     * @param ?int         $keys     there are
     * @param string       $none     a value that stands for none, such as 0; '' where there is no such value
     * @param list<string> $missing  some values that lead nowhere
     * @param bool         $folded   they are the same only when capitals are
     */
    public function __construct(
        public int $values,
        public int $found,
        public ?int $rows = null,
        public ?int $orphans = null,
        public ?int $used = null,
        public ?int $keys = null,
        public string $none = '',
        public array $missing = [],
        public bool $folded = false,
    ) {
    }

    public function share(): float
    {
        return $this->values > 0 ? $this->found / $this->values : 0.0;
    }
}
