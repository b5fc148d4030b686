<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

/** How much a finding asks for. */
enum Severity: string
{
    /** Good to know; it stands in lists only. */
    case Note = 'note';
    /** Somebody should look whether it is meant so. It stands in the margin, beside what it is about. */
    case Doubt = 'doubt';
    /** Something is wrong, or will go wrong. */
    case Fault = 'fault';

    public function rank(): int
    {
        return match ($this) {
            self::Note => 0,
            self::Doubt => 1,
            self::Fault => 2,
        };
    }
}
