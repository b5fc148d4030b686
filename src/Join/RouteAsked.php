<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\EntryStore;
use Fasti\Register\Search;
use Fasti\Register\Understanding;
use Fasti\Register\Understood;

/** `station to unit` asks how one gets there. */
final readonly class RouteAsked implements Understanding
{
    public function __construct(private Search $search, private EntryStore $entries)
    {
    }

    public function of(string $query): array
    {
        if (1 !== preg_match('/^(\S.*?)\s+(?:to|→|->|⇒)\s+(\S.*)$/iu', $query, $m)) {
            return [];
        }
        $from = $this->entry($m[1]);
        $to = $this->entry($m[2]);

        return null === $from || null === $to ? [] : [
            new Understood(\sprintf('How to get from %s to %s', $from[1], $to[1]), 'route', ['from' => $from[0], 'to' => $to[0]]),
        ];
    }

    /** @return array{int, string}|null the best that is called so */
    private function entry(string $name): ?array
    {
        $id = $this->search->entriesFor($name)[0] ?? null;

        return null === $id ? null : [$id, ($this->entries->placed([$id])[$id] ?? null)?->words() ?? ''];
    }
}
