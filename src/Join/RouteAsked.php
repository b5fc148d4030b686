<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\Search;
use Fasti\Register\Understanding;

/** `station to unit` asks how one gets there. */
final readonly class RouteAsked implements Understanding
{
    public function __construct(private Search $search)
    {
    }

    public function of(string $query): array
    {
        if (1 !== preg_match('/^(\S.*?)\s+(?:to|→|->|⇒)\s+(\S.*)$/iu', $query, $m)) {
            return [];
        }
        $from = $this->entry($m[1]);
        $to = $this->entry($m[2]);

        return null === $from || null === $to ? [] : [[
            'words' => \sprintf('How to get from %s to %s', $from[1], $to[1]), 'route' => 'route', 'parameters' => ['from' => $from[0], 'to' => $to[0]],
        ]];
    }

    /** @return array{int, string}|null the best that is called so */
    private function entry(string $name): ?array
    {
        $found = $this->search->find($name)['entries'][0] ?? null;
        $id = $found['id'] ?? null;

        return !is_numeric($id) ? null : [
            (int) $id,
            match (true) {
                \is_string($found['title'] ?? null) && '' !== $found['title'] => $found['title'],
                \is_string($found['name'] ?? null) => $found['name'],
                default => '',
            },
        ];
    }
}
