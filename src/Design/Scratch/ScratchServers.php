<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

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

    /** @return list<string> */
    public function engines(): array
    {
        $engines = [];
        foreach ($this->servers as $server) {
            $engines[] = $server->engine();
        }

        return $engines;
    }
}
