<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Part of a query as it is written. Nodes hold what stands there and nothing that follows from it. */
abstract class Node
{
    /** Its first byte within the text. */
    public int $at = 0;
    /** The byte after its last. */
    public int $end = 0;
}
