<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Amount;

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

    /**
     * @param string       $none    see there
     * @param list<string> $missing that are known already
     */
    public static function counted(JoinFigures $figures, string $none = '', array $missing = []): self
    {
        return new self(
            max(0, $figures->used + $figures->missing - ('' === $none ? 0 : 1)), $figures->used, $figures->rows - $figures->empty, $figures->orphans,
            $figures->used, $figures->parents, $none, [] === $missing ? \array_slice($figures->examples, 0, 5) : $missing,
        );
    }

    /** "9 of 72,520 rows lead nowhere; 80 of 100 keys are used" */
    public function inWords(): string
    {
        $left = $this->values - $this->found;
        $words = match (true) {
            null !== $this->rows && 0 === $this->orphans => \sprintf('all %s found, in %s', Amount::of($this->values, 'value'), Amount::of($this->rows, 'row')),
            null !== $this->rows => \sprintf('%s of %s %s nowhere', Amount::count((int) $this->orphans), Amount::of($this->rows, 'row'),
                1 === $this->orphans ? 'leads' : 'lead'),
            0 === $left => \sprintf('all %s that were looked for are found', Amount::of($this->values, 'value')),
            0 === $this->found => \sprintf('none of %s that were looked for is found', Amount::of($this->values, 'value')),
            default => \sprintf('%s of %s that were looked for are found', Amount::count($this->found), Amount::of($this->values, 'value')),
        };
        if ('' !== $this->none) {
            $words .= \sprintf('; %s stands for none', $this->none);
        }
        if (null !== $this->used && null !== $this->keys && $this->keys > 0) {
            $words .= \sprintf('; %d of 100 keys are used', Amount::percent(min($this->used, $this->keys), $this->keys));
        }

        return $words;
    }

    public function share(): float
    {
        return $this->values > 0 ? $this->found / $this->values : 0.0;
    }
}
