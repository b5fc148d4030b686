<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\FieldPlace;

/** A field that a part of a model is made from. The part is a key, a join, a measure, an attribute or a trial, by its name. */
final readonly class PartUse
{
    public function __construct(
        public FieldPlace $place,
        public string $kind,
        public string $part,
    ) {
    }
}
