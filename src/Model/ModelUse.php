<?php

declare(strict_types=1);

namespace Fasti\Model;

/** What of a shared model stands on a field: a measure, an attribute, a key, a join or a kept trial, by its name. */
final readonly class ModelUse
{
    public function __construct(
        public int $model,
        public string $name,
        public string $kind,
        public string $part,
    ) {
    }
}
