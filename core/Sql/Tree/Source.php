<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Something that a query takes rows from. */
abstract class Source extends Node
{
}
