<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/** The engines whose scripts can be tried on this machine. */
final readonly class ScratchServers
{
    /** @param iterable<ScratchServer> $servers */
    public function __construct(#[AutowireIterator(ScratchServer::class)] private iterable $servers)
    {
    }

    public function of(string $engine): ?ScratchServer
    {
        foreach ($this->servers as $server) {
            if ($server->engine() === $engine) {
                return $server;
            }
        }

        return null;
    }

    /** @return list<string> in the order in which engines are listed */
    public function engines(): array
    {
        return array_keys($this->labels());
    }

    /** @return array<string, string> engine → its name for people */
    public function labels(): array
    {
        $labels = array_map(static fn (Dialect $dialect): string => $dialect->label(), Dialects::all());

        return array_filter($labels, fn (string $engine): bool => null !== $this->of($engine), \ARRAY_FILTER_USE_KEY);
    }
}
