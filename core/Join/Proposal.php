<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Quotes;

/** A join that nothing declares, with what speaks for it and against it. */
final readonly class Proposal
{
    /**
     * @param non-empty-list<string>    $columns
     * @param non-empty-list<string>    $toColumns  in the order of `columns`
     * @param float                     $confidence how often such a one is right, 0 to 1
     * @param list<Evidence>            $evidence   what counts most first
     * @param array{string, string}|null $where     a field of the referring table and the value it has in the rows that take part
     */
    public function __construct(
        public Place $from,
        public array $columns,
        public Place $to,
        public array $toColumns,
        public float $confidence,
        public array $evidence,
        public ?array $where = null,
        public ?DataEvidence $data = null,
    ) {
    }

    /** The condition for people, `kind = 'station'`, which is never sent to a source; null where all rows take part. */
    public function condition(): ?string
    {
        if (null === $this->where) {
            return null;
        }
        [$field, $value] = $this->where;
        $name = 1 === preg_match('/^[a-z_][a-z0-9_]*$/i', $field) ? $field : Quotes::around($field);

        return $name.' = '.Quotes::around($value, "'");
    }

    /** @return array<string, mixed> as `fasti:joins` prints it */
    public function toArray(): array
    {
        return [
            'from' => ['schema' => $this->from->schema, 'table' => $this->from->name, 'columns' => $this->columns],
            'to' => ['schema' => $this->to->schema, 'table' => $this->to->name, 'columns' => $this->toColumns],
            'confidence' => round($this->confidence, 3),
            'evidence' => array_map(static fn (Evidence $one): string => $one->words, $this->evidence),
            'where' => $this->condition(),
        ];
    }
}
