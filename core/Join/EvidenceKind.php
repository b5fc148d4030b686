<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** Where what speaks for a join, or against it, was read. */
enum EvidenceKind: string
{
    /** Names, types, keys, or nothing that the others tell. */
    case Structure = 'structure';
    /** Values of one end that were found, all or some, at the other. */
    case Found = 'found';
    /** A view, a routine or a query that joins so. */
    case Used = 'used';
}
