<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Place;

/** One statement of a script that makes structure, without what ends it. */
final readonly class ScriptStatement
{
    /**
     * @param string $kind    schema, drop, type, table, key, index, comment, view, trigger, routine, rows or change
     * @param bool   $program it holds statements of its own, so that a semicolon does not end it
     */
    public function __construct(public string $kind, public string $sql, public ?Place $about = null, public bool $program = false)
    {
    }
}
