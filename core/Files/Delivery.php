<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Statements;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Sheet\Sheets;

/** What was found in files that were handed in together, as they are read one after the other. */
final class Delivery
{
    /** @var list<Table> */
    public array $tables = [];
    /** @var list<Routine> */
    public array $routines = [];
    /** @var list<string> */
    public array $notes = [];
    /** @var list<Collection> */
    public array $collections = [];
    /** @var array<string, true> those that scripts are of */
    public array $engines = [];
    public ?Statements $statements = null;
    public readonly Sheets $sheets;
    /** Some of the files were catalog sheets. */
    public bool $sheeted = false;

    public function __construct()
    {
        $this->sheets = new Sheets();
    }

    /** Takes in what a script makes. */
    public function script(Catalog $catalog): void
    {
        array_push($this->tables, ...$catalog->tables);
        array_push($this->routines, ...$catalog->routines);
        array_push($this->notes, ...$catalog->notes);
        if (null !== $catalog->statements) {
            $this->statements = $this->statements?->and($catalog->statements) ?? $catalog->statements;
        }
        $this->engines[$catalog->engine] = true;
    }
}
