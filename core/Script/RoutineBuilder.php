<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Routine;

/** A routine while its script is still being read. */
final class RoutineBuilder
{
    public string $comment = '';
    public ?string $returns = null;
    public ?string $body = null;
    public string $statement = '';

    /** @param list<array{mode: string, name: string, type: string, default: ?string}> $parameters types as the catalog writes them */
    public function __construct(public string $schema, public string $name, public string $kind, public array $parameters = [])
    {
    }

    /** @return list<string> types of what is handed in, which tell routines of one name apart */
    public function signature(): array
    {
        return array_map(
            static fn (array $parameter): string => $parameter['type'],
            array_values(array_filter($this->parameters, static fn (array $parameter): bool => 'OUT' !== $parameter['mode'])),
        );
    }

    /** @param string $parameters as the catalog writes them */
    public function routine(string $parameters): Routine
    {
        return new Routine($this->schema, $this->name, $this->kind, $this->returns, $this->body, $this->comment, $parameters, $this->statement);
    }
}
