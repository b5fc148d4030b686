<?php

declare(strict_types=1);

namespace Fasti\Register;

/** How a join is known. */
enum JoinKind: string
{
    /** The database enforces it. */
    case Declared = 'declared';
    /** A steward states it. */
    case Documented = 'documented';
    /** Fasti suggests it: drawn faint, never counted, in no edition. */
    case Proposed = 'proposed';

    public static function of(string $readAs, string $stated): self
    {
        return match (true) {
            self::Declared->value === $readAs => self::Declared,
            self::Documented->value === $stated => self::Documented,
            default => self::Proposed,
        };
    }

    public function counts(): bool
    {
        return self::Proposed !== $this;
    }

    /** What the sentence of such a join adds; '' where the database says it itself. */
    public function inWords(): string
    {
        return match ($this) {
            self::Declared => '',
            self::Documented => 'documented, not enforced',
            self::Proposed => 'proposed',
        };
    }
}
