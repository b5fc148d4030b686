<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Join\EntryKind;
use Fasti\Core\Join\Sentence;
use Fasti\Register\DossierPart;
use Fasti\Register\EntryView;
use Fasti\Register\FieldView;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Register\Slot;

/**
 * What was counted of the joins of an entry.
 *
 * @implements DossierPart<JoinsKnown>
 */
final readonly class JoinPart implements DossierPart
{
    public function __construct(private JoinEvidences $evidences, private EntryRoles $roles, private Joins $joins)
    {
    }

    public function gives(): string
    {
        return JoinsKnown::class;
    }

    public function of(array $entries): array
    {
        $ids = $near = [];
        foreach ($entries as $entry) {
            foreach ($entry->joins as $join) {
                $ids[$join->id] = true;
                $near[$join->fromId] = true;
            }
        }
        $known = $this->evidences->of(array_keys($ids));
        $links = array_keys(array_filter($this->roles->of(array_keys($near)), static fn (Role $role): bool => EntryKind::Link->value === $role->kind()));
        $linking = [] === $links ? [] : $this->joins->of($links);
        $found = [];
        foreach ($entries as $entry) {
            $of = array_intersect_key($known, array_fill_keys(array_map(static fn (JoinView $join): int => $join->id, $entry->joins), true));
            $across = self::across($entry, $linking);
            $own = \in_array($entry->id, $links, true) ? self::own($entry) : [];
            if ([] !== $of || [] !== $across || [] !== $own) {
                $found[$entry->id] = new JoinsKnown($of, $across, $own);
            }
        }

        return $found;
    }

    /**
     * @param array<int, list<JoinView>> $linking joins of tables that link
     *
     * @return list<Across>
     */
    private static function across(EntryView $entry, array $linking): array
    {
        $across = [];
        foreach ($entry->countedJoins() as $join) {
            foreach ($join->out ? [] : $linking[$join->fromId] ?? [] as $other) {
                if ($other->out && $other->id !== $join->id && $other->kind->counts()) {
                    $across[] = new Across(
                        Sentence::across($join->toTitle, $join->verbBack, $join->cardinality->from, $other->toTitle, $join->fromTitle),
                        $other->toId,
                        $join->fromId,
                    );
                }
            }
        }

        return $across;
    }

    /** @return list<string> */
    private static function own(EntryView $entry): array
    {
        $taken = $entry->facts->primaryKey->columns ?? [];
        foreach ($entry->joins as $join) {
            if ($join->out) {
                array_push($taken, ...array_column($join->pairs, 0));
            }
        }

        return array_values(array_diff(array_map(static fn (FieldView $field): string => $field->name, $entry->presentFields()), $taken));
    }

    public function partials(): array
    {
        return [Slot::Join->value => 'join/_observed.html.twig', Slot::Joins->value => 'join/_waiting.html.twig'];
    }
}
