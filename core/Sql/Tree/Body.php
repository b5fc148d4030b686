<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** What makes the rows of a query, before they are ordered and cut. */
abstract class Body extends Node
{
}
