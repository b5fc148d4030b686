<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\DossierPart;
use Fasti\Register\JoinView;
use Fasti\Register\Slot;

/**
 * What was counted of the joins of an entry.
 *
 * @implements DossierPart<JoinsKnown>
 */
final readonly class JoinPart implements DossierPart
{
    public function __construct(private JoinEvidences $evidences)
    {
    }

    public function gives(): string
    {
        return JoinsKnown::class;
    }

    public function of(array $entries): array
    {
        $ids = [];
        foreach ($entries as $entry) {
            foreach ($entry->joins as $join) {
                $ids[$join->id] = true;
            }
        }
        $known = $this->evidences->of(array_keys($ids));
        $found = [];
        foreach ($entries as $entry) {
            $of = array_intersect_key($known, array_fill_keys(array_map(static fn (JoinView $join): int => $join->id, $entry->joins), true));
            if ([] !== $of) {
                $found[$entry->id] = new JoinsKnown($of);
            }
        }

        return $found;
    }

    public function partials(): array
    {
        return [Slot::Join->value => 'join/_observed.html.twig', Slot::Joins->value => 'join/_waiting.html.twig'];
    }
}
