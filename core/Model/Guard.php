<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What must hold before a plan may answer: a key that no constraint keeps unique tells rows apart in what is asked for. */
final readonly class Guard
{
    /**
     * @param list<string> $keys   fields of the entry at the end of the step
     * @param string       $sql    gives the keys that stand more than once, with a column `stands`; no rows where all is well
     * @param list<string> $fields that are asked for
     * @param string       $shown  SQL that shows the rows of such keys
     */
    public function __construct(public Way $way, public array $keys, public string $sql, public array $fields, public string $shown)
    {
    }

    /** @param int $many keys that stand more than once */
    public function inWords(int $many): string
    {
        return \sprintf(
            '%s %s of %s stand%s more than once with different %s, so each row of %s that leads there would be counted more than once.',
            number_format($many),
            1 === $many ? 'key' : 'keys',
            $this->way->to(),
            1 === $many ? 's' : '',
            implode(', ', array_values(array_diff($this->fields, $this->keys)) ?: $this->fields),
            $this->way->from(),
        );
    }
}
