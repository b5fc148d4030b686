<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Core\Draft\Draft;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Register\Topic\JoinTopic;

/**
 * The drafts of one entry and of its fields.
 *
 * @phpstan-import-type Of from DraftStore
 */
final class EntryDrafts
{
    /** In the order in which they are decided. */
    private const ORDER = ['meaning', 'businessName', 'grain', 'unit', 'allowed', 'personal', 'verb', 'verbBack'];

    /** @var Of|null */
    private ?array $drafts = null;

    /** @param \Closure(): Of $read */
    public function __construct(private readonly \Closure $read)
    {
    }

    /** @return array<string, Draft> property → the surest */
    public function ofField(int $field): array
    {
        return $this->first(FieldTopic::NAME, $field);
    }

    /** @return array<string, Draft> */
    public function ofEntry(int $entry): array
    {
        return $this->first(EntryTopic::NAME, $entry);
    }

    /** @return array<string, Draft> */
    public function ofJoin(int $join): array
    {
        return $this->first(JoinTopic::NAME, $join);
    }

    /** @return array<string, list<Draft>> property → all, the surest first */
    public function all(string $topic, int $id): array
    {
        $this->drafts ??= ($this->read)();
        $of = $this->drafts[$topic][$id] ?? [];
        uksort($of, static fn (string $a, string $b): int => array_search($a, self::ORDER, true) <=> array_search($b, self::ORDER, true));

        return array_filter($of, static fn (array $drafts): bool => [] !== $drafts);
    }

    /** @return array<string, Draft> */
    private function first(string $topic, int $id): array
    {
        return array_map(static fn (array $drafts): Draft => $drafts[0] ?? throw new \LogicException('There is one at least.'), $this->all($topic, $id));
    }
}
