<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\Property;
use Fasti\Text\SaidStore;
use Fasti\Text\Vocabulary;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/** Gathers dossiers: a few queries of each room for any number of entries. */
final readonly class Dossiers
{
    /** @param iterable<DossierPart<object>> $parts */
    public function __construct(
        private Entries $entries,
        private Vocabulary $vocabulary,
        private SaidStore $said,
        #[AutowireIterator(DossierPart::class)]
        private iterable $parts,
    ) {
    }

    public function one(int $entry): ?Dossier
    {
        return $this->of($this->entries->load([$entry]))[0] ?? null;
    }

    /**
     * @param list<EntryView> $entries
     *
     * @return list<Dossier> in their order
     */
    public function of(array $entries): array
    {
        $given = $partials = [];
        foreach ($this->parts as $part) {
            foreach ($part->of($entries) as $id => $known) {
                $given[$id][$part->gives()] = $known;
            }
            foreach ($part->partials() as $slot => $template) {
                $partials[$slot][] = [$part->gives(), $template];
            }
        }
        [$said, $saidOfFields] = $this->saidAmongFacts($entries);

        return array_map(static fn (EntryView $entry): Dossier => new Dossier(
            $entry,
            $given[$entry->id] ?? [],
            $partials,
            $said[$entry->id] ?? [],
            array_intersect_key($saidOfFields, array_flip(array_map(static fn (FieldView $field): int => $field->id, $entry->fields))),
        ), $entries);
    }

    /**
     * @param list<EntryView> $entries
     *
     * @return array{array<int, array<string, string>>, array<int, array<string, string>>}
     */
    private function saidAmongFacts(array $entries): array
    {
        $names = fn (string $topic): array => array_map(static fn (Property $property): string => $property->name(), $this->vocabulary->amongFacts($topic));
        $fields = [] === $names(FieldTopic::NAME) ? [] : array_merge(...array_map(
            static fn (EntryView $entry): array => array_map(static fn (FieldView $field): int => $field->id, $entry->fields),
            $entries,
        ));

        return [
            $this->said->of(EntryTopic::NAME, array_map(static fn (EntryView $entry): int => $entry->id, $entries), $names(EntryTopic::NAME)),
            $this->said->of(FieldTopic::NAME, $fields, $names(FieldTopic::NAME)),
        ];
    }
}
