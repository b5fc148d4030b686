<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Values that a condition names, and how a source is asked whether there are such. */
final readonly class NamedText
{
    /**
     * @param string                 $what   the attribute, as the trial names it
     * @param non-empty-list<string> $values
     * @param list<FieldUse>         $fields that it is made from
     * @param string                 $there  SQL of one row: `n0` is 1 where the first of the values is there
     * @param string                 $others SQL of some values that are there: `value`
     * @param ?CodeLabels            $labels of codes that stand there
     */
    public function __construct(
        public string $what,
        public string $role,
        public array $values,
        public array $fields,
        public string $there,
        public string $others,
        public ?CodeLabels $labels = null,
    ) {
    }
}
