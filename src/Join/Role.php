<?php

declare(strict_types=1);

namespace Fasti\Join;

/** What an entry is for. */
final readonly class Role
{
    /**
     * @param string       $seems   the kind it seems to be
     * @param string       $decided the kind a steward says it is, '' where nobody has
     * @param list<string> $traits
     */
    public function __construct(
        public string $seems,
        public string $decided,
        public string $reason,
        public array $traits,
        public string $keyKind,
        public string $area,
    ) {
    }

    public function kind(): string
    {
        return $this->decided ?: $this->seems;
    }
}
