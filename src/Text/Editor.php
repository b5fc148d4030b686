<?php

declare(strict_types=1);

namespace Fasti\Text;

/** How a property is written. */
enum Editor: string
{
    case Line = 'line';
    /** Several lines of Markdown. */
    case Long = 'long';
    case Choice = 'choice';
}
