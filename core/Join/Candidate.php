<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** Fields that may lead to a key, and what speaks for it and against it. */
final class Candidate
{
    /**
     * @param non-empty-list<string> $columns  in the order of the key's
     * @param array<string, float>   $features see Feature
     * @param list<string>           $quoted   what goes into the words of features: the comment, the views
     */
    public function __construct(
        public readonly int $from,
        public readonly array $columns,
        public readonly JoinKey $key,
        public readonly int $to,
        public array $features,
        public readonly ?NameMatch $match = null,
        public array $quoted = [],
        public ?DataEvidence $data = null,
        public float $confidence = 0.0,
        public readonly bool $certain = false,
    ) {
    }

    public function has(string $feature): bool
    {
        return 0.0 !== ($this->features[$feature] ?? 0.0);
    }
}
