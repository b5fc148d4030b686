<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

/** How much a finding asks for. */
enum Severity: string
{
    /** It stands in the margin, beside what it is about. */
    case Attention = 'attention';
    /** Good to know; it stands in lists only. */
    case Notice = 'notice';
}
