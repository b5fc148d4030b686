<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\Window;

/** What names mean at one place of a query, and what lies around it. */
final class Scope
{
    public Frame $frame;
    /** @var array<string, Meaning> what the list of the query gives, by folded name */
    public array $aliases = [];
    /** Aliases come before fields, after them, or not at all. */
    public string $aliasesCome = '';
    /** @var array<string, Window> */
    public array $windows = [];
    public bool $grouped = false;
    /** @var array<string, true> what decides about the rows here */
    public array $conditions = [];

    /** @param array<string, Block> $named queries that have a name here, by folded name */
    public function __construct(public readonly ?self $around = null, public array $named = [])
    {
        $this->frame = new Frame();
    }
}
