<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Register\EntryView;

/** What a diagram shows of its sources, so that it can be told later what has changed there since. */
final readonly class Known
{
    /**
     * @param array<int, string> $entries names in the source
     * @param array<int, true>   $joins   between them, more than proposals
     */
    public function __construct(public array $entries, public array $joins)
    {
    }

    /** @param list<EntryView> $entries */
    public static function of(array $entries): self
    {
        $names = $joins = [];
        foreach ($entries as $entry) {
            $names[$entry->id] = $entry->name;
        }
        foreach ($entries as $entry) {
            foreach ($entry->countedJoins() as $join) {
                if (isset($names[$join->fromId], $names[$join->toId])) {
                    $joins[$join->id] = true;
                }
            }
        }

        return new self($names, $joins);
    }

    public static function fromJson(string $json): self
    {
        $open = json_decode($json, true);
        $entries = $joins = [];
        foreach (\is_array($open) && \is_array($open['entries'] ?? null) ? $open['entries'] : [] as $id => $name) {
            if (\is_string($name)) {
                $entries[(int) $id] = $name;
            }
        }
        foreach (\is_array($open) && \is_array($open['joins'] ?? null) ? $open['joins'] : [] as $id) {
            if (\is_int($id)) {
                $joins[$id] = true;
            }
        }

        return new self($entries, $joins);
    }

    public function json(): string
    {
        return (string) json_encode(['entries' => (object) $this->entries, 'joins' => array_keys($this->joins)], \JSON_UNESCAPED_UNICODE);
    }

    /**
     * What somebody who knew this has to be told now. Of tablets that were not there then there is nothing to tell.
     *
     * @param list<EntryView> $entries those in the diagram
     *
     * @return list<string>
     */
    public function news(array $entries): array
    {
        $news = $told = [];
        $there = [];
        foreach ($entries as $entry) {
            $there[$entry->id] = true;
            $was = $this->entries[$entry->id] ?? null;
            if (null !== $was && $was !== $entry->name) {
                $news[] = \sprintf('“%s” is called “%s” in its source now.', $was, $entry->name);
            }
            if (null !== $entry->goneAt && null !== $was) {
                $news[] = \sprintf('%s is gone from its source.', $entry->title);
            }
        }
        foreach ($entries as $entry) {
            foreach ($entry->countedJoins() as $join) {
                if (isset($this->entries[$join->fromId], $this->entries[$join->toId], $there[$join->fromId], $there[$join->toId])
                    && !isset($this->joins[$join->id]) && !isset($told[$join->id])) {
                    $told[$join->id] = true;
                    $news[] = \sprintf('There is a new join: %s', (string) $join->forth());
                }
            }
        }
        $now = self::of($entries)->joins;
        $lost = \count(array_diff_key($this->joins, $now));
        if ($lost > 0 && [] === array_diff_key($this->entries, $there)) {
            $news[] = 1 === $lost ? 'A join that was there is gone.' : "$lost joins that were there are gone.";
        }

        return $news;
    }

    /**
     * What is known after somebody has added to the diagram or taken away, while what is still to be told stays so.
     *
     * @param list<EntryView> $entries those in the diagram now
     */
    public function with(array $entries): self
    {
        $now = self::of($entries);
        if ([] === $this->news($entries)) {
            return $now;
        }
        $fresh = array_diff_key($now->entries, $this->entries);
        $joins = array_intersect_key($this->joins, $now->joins);
        foreach ($entries as $entry) {
            foreach ($entry->countedJoins() as $join) {
                if (isset($now->joins[$join->id]) && (isset($fresh[$join->fromId]) || isset($fresh[$join->toId]))) {
                    $joins[$join->id] = true;
                }
            }
        }

        return new self(array_intersect_key($this->entries, $now->entries) + $fresh, $joins);
    }
}
