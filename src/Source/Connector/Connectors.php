<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\SourceError;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

final readonly class Connectors
{
    /** @var array<string, Connector> by engine, in the order in which dialects are listed */
    private array $all;

    /** @param iterable<Connector> $connectors */
    public function __construct(#[AutowireIterator(Connector::class)] iterable $connectors)
    {
        $found = [];
        foreach ($connectors as $connector) {
            $found[$connector->engine()] = $connector;
        }
        uksort(
            $found,
            static fn (string $a, string $b): int => array_search(
                $a,
                array_keys(Dialects::all()),
                true,
            ) <=> array_search($b, array_keys(Dialects::all()), true),
        );
        $this->all = $found;
    }

    /** @return array<string, Connector> */
    public function all(): array
    {
        return $this->all;
    }

    /** @throws SourceError */
    public function of(string $engine): Connector
    {
        return $this->all[$engine] ?? throw new SourceError(
            \sprintf('“%s” is not a kind of source that Fasti reads.', $engine),
            'Choose one of those that the form offers.',
        );
    }
}
