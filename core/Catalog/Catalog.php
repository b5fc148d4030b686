<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** The structure of a source, as one survey read it. Facts only. */
final readonly class Catalog
{
    use With;

    /**
     * @param string        $server   what the server says it is, e.g. "10.11.6-MariaDB"
     * @param list<Table>   $tables   ordered by schema and name
     * @param list<Routine> $routines
     * @param list<string>  $notes    what could not be read, in sentences
     * @param ?Statements   $statements of a catalog that was read from scripts: how many were understood
     */
    public function __construct(
        public string $engine,
        public string $server,
        #[ListOf(Table::class)]
        public array $tables,
        #[ListOf(Routine::class)]
        public array $routines = [],
        #[ListOf('string')]
        public array $notes = [],
        #[WhenSet]
        public ?Statements $statements = null,
    ) {
    }

    public function table(string $schema, string $name): ?Table
    {
        foreach ($this->tables as $table) {
            if ($table->name === $name && $table->schema === $schema) {
                return $table;
            }
        }

        return null;
    }
}
