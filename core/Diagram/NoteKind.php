<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

enum NoteKind: string
{
    case Heading = 'heading';
    case Note = 'note';
    /** A titled rectangle that holds what lies in it. */
    case Frame = 'frame';
}
