<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

/** What became of a statement that was read without a fault. */
enum Outcome
{
    case Understood;
    /** It says nothing about structure. */
    case OfNoMatter;
}
