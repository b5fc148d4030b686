<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Finding;
use Fasti\Register\Dossiers;
use Fasti\Register\EntryKnown;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\JoinKind;
use Fasti\Register\Joins;
use Fasti\Register\RegisterCatalog;
use Fasti\Register\RegisterFollowed;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Source\SourceStore;
use Fasti\Text\TextSaved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** Runs checks when what they look at has changed. */
final readonly class Watching
{
    public function __construct(
        private Checks $checks,
        private Findings $findings,
        private RegisterCatalog $catalog,
        private EntryStore $entries,
        private Fields $fields,
        private Dossiers $dossiers,
        private SourceStore $sources,
        private Joins $joins,
    ) {
    }

    /** The register follows a source: its structure is looked at as the register has it now. */
    #[AsEventListener]
    public function followed(RegisterFollowed $followed): void
    {
        $this->catalog($followed->source, $this->checks->ofCatalogs);
        $this->register(null);
    }

    #[AsEventListener]
    public function known(EntryKnown $known): void
    {
        $this->entry($known->entry, $this->checks->ofDossiers);
    }

    #[AsEventListener]
    public function saved(TextSaved $saved): void
    {
        if (EntryTopic::NAME === $saved->subject->page) {
            $about = array_filter([...$this->checks->ofDossiers], static fn (DossierCheck $check): bool => \in_array($saved->property, $check->about(), true));
            $this->entry($saved->subject->pageId, $about);
        }
        $this->register($saved->property);
        $this->over($saved);
    }

    /** Checks that look at the whole register seldom: what they noticed about a text that is written anew is over until they look again. */
    private function over(TextSaved $saved): void
    {
        $subject = $saved->subject;
        $seldom = array_filter([...$this->checks->ofRegister], static fn (RegisterCheck $check): bool => [] === $check->about());
        if (EntryTopic::NAME === $subject->page && [] !== $seldom) {
            $names = array_values(array_map(static fn (RegisterCheck $check): string => $check->name(), $seldom));
            $this->findings->endAbout($names, $subject->pageId, EntryTopic::NAME === $subject->topic ? null : $subject->id, $saved->property);
        }
    }

    /** Looks at the whole register, as after a survey. */
    public function again(): void
    {
        $this->register(null);
    }

    #[AsEventListener]
    public function switched(CheckSwitched $switched): void
    {
        foreach ($this->checks->ofRegister as $check) {
            if ($check->name() === $switched->check) {
                $this->findings->follow($check, $check->of(), null);
            }
        }
        foreach ($this->checks->ofCatalogs as $check) {
            foreach ($check->name() === $switched->check ? array_keys($this->sources->all()) : [] as $source) {
                $this->catalog($source, [$check]);
            }
        }
        foreach ($this->checks->ofDossiers as $check) {
            foreach ($check->name() === $switched->check ? array_keys($this->sources->all()) : [] as $source) {
                foreach ($this->entries->ids($source) as $entry) {
                    $this->entry($entry, [$check]);
                }
            }
        }
    }

    /** @param iterable<CatalogCheck> $checks */
    private function catalog(int $source, iterable $checks): void
    {
        [$whole, $gone] = $this->catalog->of($source);
        $catalog = $whole->with(tables: array_values(array_filter($whole->tables, static fn ($table): bool => !isset($gone[$table->place()->key()]))));
        $places = $this->entries->places($source);
        $ids = array_values($places);
        $catalog = $catalog->with(tables: $this->withStated($source, $catalog->tables, $places));
        $this->findings->gone($source, array_values(array_intersect_key($places, $gone)));
        $fields = null;
        foreach ($checks as $check) {
            $noticed = [];
            foreach ($check->of($catalog) as $finding) {
                $fields ??= $this->fields->ids($ids);
                $noticed[] = self::noticed($finding, $places, $fields);
            }
            $this->findings->follow($check, $noticed, $ids);
        }
    }

    /**
     * What people documented leads elsewhere as what is declared does.
     *
     * @param list<Table>        $tables
     * @param array<string, int> $places
     *
     * @return list<Table>
     */
    private function withStated(int $source, array $tables, array $places): array
    {
        $stated = [];
        $keys = array_flip($places);
        foreach ($this->joins->ofSource($source) as $join) {
            $to = Place::ofKey($keys[$join->toId] ?? '');
            if (JoinKind::Documented === $join->kind && isset($keys[$join->toId]) && [] !== $join->pairs) {
                $stated[$join->fromId][] = new ForeignKey(null, array_column($join->pairs, 0), new Reference($to->schema, $to->name,
                    array_column($join->pairs, 1)));
            }
        }

        return array_map(static function (Table $table) use ($stated, $places): Table {
            $more = $stated[$places[$table->place()->key()] ?? 0] ?? [];

            return [] === $more ? $table : $table->with(foreignKeys: [...$table->foreignKeys, ...$more]);
        }, $tables);
    }

    /** @param iterable<DossierCheck> $checks the entry is gathered only where there is any: this runs with every text that is typed */
    private function entry(int $id, iterable $checks): void
    {
        $dossier = null;
        foreach ($checks as $check) {
            $dossier ??= $this->dossiers->one($id);
            if (null === $dossier) {
                return;
            }
            $this->findings->follow($check, $check->of($dossier), [$id]);
        }
    }

    /** @param ?string $property only the checks that look at it; null for all */
    private function register(?string $property): void
    {
        foreach ($this->checks->ofRegister as $check) {
            if (null === $property || \in_array($property, $check->about(), true)) {
                $this->findings->follow($check, $check->of(), null);
            }
        }
    }

    /**
     * @param array<string, int>             $places
     * @param array<int, array<string, int>> $fields
     */
    private static function noticed(Finding $finding, array $places, array $fields): Noticed
    {
        $entry = $places[$finding->place->key()];

        return new Noticed($entry, null === $finding->field ? null : $fields[$entry][$finding->field] ?? null, $finding->title, $finding->group);
    }
}
