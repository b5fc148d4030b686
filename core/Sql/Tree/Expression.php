<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Something that has a value. */
abstract class Expression extends Node
{
}
