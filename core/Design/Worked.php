<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** The logical depth: tables with attributes and keys, in general words, and what was noticed while they were worked out. */
final readonly class Worked
{
    /**
     * @param array<string, WorkedTable> $tables by key
     * @param list<DesignFinding>        $findings
     */
    public function __construct(public Design $design, public array $tables, public array $findings)
    {
    }

    public function ofThing(string $name): ?WorkedTable
    {
        return $this->tables['t:'.Names::key($name)] ?? null;
    }
}
