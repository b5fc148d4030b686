<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;

/** A column of an answer: an attribute or a measure. */
final readonly class PlanColumn
{
    /** @param list<FieldUse> $fields that it is made from */
    public function __construct(
        public string $name,
        public ?Level $level,
        public ?Measure $measure,
        public TypeFamily $family,
        public string $unit,
        public string $format,
        public array $fields,
    ) {
    }
}
