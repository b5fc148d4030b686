<?php

declare(strict_types=1);

namespace Fasti\Design;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\TakenWords;
use Fasti\Core\Design\Taking;
use Fasti\Join\SourceGraph;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Source\Source;
use Fasti\Survey\Surveys;
use Fasti\Text\BadText;

/** Begins designs: with nothing, or with what there is in a source, its texts included. */
final readonly class Beginning
{
    public function __construct(
        private Designs $designs,
        private SourceGraph $graph,
        private EntryStore $store,
        private Entries $entries,
        private Surveys $surveys,
        private EntityManagerInterface $orm,
    ) {
    }

    /**
     * @param list<int> $entries those to take; none for all of the source
     *
     * @throws BadText
     */
    public function begin(Account $account, string $name, string $purpose, int $source, array $entries): KeptDesign
    {
        if ([] !== $entries && 0 === $source) {
            $sources = array_values(array_unique(array_column($this->store->placed($entries), 'source')));
            if (\count($sources) > 1) {
                throw new BadText(\sprintf('These entries are of %d sources, and a design begins with one. Choose entries of one source.', \count($sources)));
            }
            $source = $sources[0] ?? 0;
        }
        $of = $source > 0 ? $this->orm->find(Source::class, $source) : null;
        if (null === $of) {
            return $this->designs->make($account, OutlineWriter::design(new Design($name, $purpose)));
        }
        $catalog = $this->catalog($of, $entries);
        [$design, $notes] = Taking::of($catalog, $of->name, new TakenWords($name, $purpose, $this->texts($of, $entries)));
        $text = OutlineWriter::design($design);
        foreach ($notes as $note) {
            $text .= "\n-- ".str_replace("\n", ' ', $note);
        }

        $kept = $this->designs->make($account, $text, $of);
        $kept->taken = [] === $entries ? null : array_map(static fn (Table $table): string => $table->place()->key(), $catalog->tables);
        $this->designs->save();

        return $kept;
    }

    /**
     * What there is of a source now; of some entries only those.
     *
     * @param list<int> $entries
     */
    public function catalog(Source $source, array $entries = []): Catalog
    {
        [$known, $ids] = $this->graph->catalog($source->id());
        $last = $this->surveys->last($source);
        // A survey knows programs too, which the register leaves out.
        $catalog = null !== $last && $last->isDone() && null !== $last->catalogJson() ? $last->catalog() : $known;
        if ([] === $entries) {
            return $catalog->with(tables: array_values(array_filter($catalog->tables, static fn (Table $table): bool => !$table->planned)));
        }
        $taken = [];
        foreach ($known->tables as $i => $table) {
            if (\in_array($ids[$i] ?? 0, $entries, true)) {
                $taken[$table->place()->key()] = true;
            }
        }

        return $catalog->with(
            tables: array_values(array_filter($catalog->tables, static fn (Table $table): bool => isset($taken[$table->place()->key()]))),
            routines: [],
        );
    }

    /**
     * What the register says of them.
     *
     * @param list<int> $only
     *
     * @return array<string, array{name?: string, grain?: string, meaning?: string, fields?: array<string, string>}>
     */
    private function texts(Source $source, array $only): array
    {
        $texts = [];
        $ids = [] === $only ? array_values($this->store->places($source->id())) : $only;
        foreach ($this->entries->load($ids, false) as $entry) {
            $fields = [];
            foreach ($entry->presentFields() as $field) {
                if ('' !== $field->meaning) {
                    $fields[$field->name] = $field->meaning;
                }
            }
            $texts[$entry->place()->key()] = array_filter([
                'name' => $entry->businessName, 'grain' => preg_replace('/^one row per /i', '', $entry->grain) ?? '', 'meaning' => $entry->meaning,
            ], static fn (string $text): bool => '' !== $text) + ['fields' => $fields];
        }

        return $texts;
    }
}
