<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\DBAL\Connection;
use Fasti\Core\Edition\Slug;
use Fasti\Core\Survey\Progress;
use Fasti\Register\Dossiers;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\RegisterCoverage;
use Fasti\Source\KnownSource;
use Fasti\Source\SourceStore;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Twig\Environment;

/**
 * Writes an edition as a folder of plain HTML that works from disk. Everything is read inside one snapshot of the
 * database, a few dozen entries at a time, so that memory does not grow with their number. What is written is the business
 * of the parts.
 */
final readonly class Site
{
    private const BATCH = 40;

    /** @param iterable<EditionPart> $parts */
    public function __construct(
        private Connection $db,
        private Entries $entries,
        private Dossiers $dossiers,
        private EntryStore $store,
        private SourceStore $sources,
        private Environment $twig,
        #[AutowireIterator(EditionPart::class)]
        private iterable $parts,
    ) {
    }

    /**
     * @param list<int> $scope sources; empty for all
     *
     * @return array{entries: int, fields: int, described: int, sources: list<string>, pages: int}
     */
    public function write(string $path, About $about, array $scope, Progress $progress): array
    {
        $folder = new Folder($path, $about, $this->twig);
        // Repeatable reads: everything below sees the register as it is at the first query.
        $this->db->beginTransaction();
        try {
            foreach ($this->parts as $part) {
                $part->begin($folder);
            }
            $contents = $this->contents($folder, $scope, $progress);
            foreach ($this->parts as $part) {
                $part->end($folder, $contents);
            }
        } finally {
            $this->db->rollBack();
            $folder->closeAll();
        }
        $names = array_map(static fn (SourceSheet $sheet): string => $sheet->source->name, $contents->sheets);

        return [
            'entries' => $contents->entries,
            'fields' => $contents->fields,
            'described' => $contents->described,
            'sources' => $names,
            'pages' => $folder->pages,
        ];
    }

    /** @param list<int> $scope */
    private function contents(Folder $folder, array $scope, Progress $progress): Contents
    {
        $coverage = $this->store->coverageBySource();
        $sources = array_filter(
            $this->sources->all(),
            static fn (KnownSource $source): bool => isset($coverage[$source->id]) && ([] === $scope || \in_array($source->id, $scope, true)),
        );
        $covered = array_map(static fn (KnownSource $source): RegisterCoverage => $coverage[$source->id], $sources);
        $total = (int) array_sum(array_column($covered, 'entries'));
        $done = 0;
        $sheets = [];
        foreach ($sources as $source) {
            $schemas = $this->entriesOf($folder, $source->id, static function (int $more) use (&$done, $total, $progress): void {
                $progress->at('Writing pages', $done += $more, $total);
            });
            $sheet = new SourceSheet($source, $coverage[$source->id], $schemas);
            foreach ($this->parts as $part) {
                $part->source($folder, $sheet);
            }
            $sheets[] = new SourceSheet($source, $coverage[$source->id], []);
        }

        return new Contents($sheets, $total, (int) array_sum(array_column($covered, 'fields')), (int) array_sum(array_column($covered, 'described')));
    }

    /**
     * Lets all entries of a source go by.
     *
     * @param callable(int): void $told
     *
     * @return array<string, list<array{name: string, title: string, grain: string, type: string, described: int, fields: int, path: string}>> by schema
     */
    private function entriesOf(Folder $folder, int $source, callable $told): array
    {
        $schemas = [];
        $last = $before = null;
        do {
            // One more than the batch: the neighbour that the last page of the batch leads on to.
            $part = $this->store->part($source, $last, self::BATCH + 1);
            $next = \count($part) > self::BATCH ? array_pop($part)->place : null;
            $views = $this->entries->load(array_column($part, 'id'));
            $near = $this->near($views);
            $addresses = array_map(EditionLinks::address(...), $near);
            foreach ($this->dossiers->of($views) as $i => $dossier) {
                $view = $dossier->entry;
                $page = new EntryPage(
                    $dossier,
                    $near,
                    new EditionLinks($addresses, Folder::root(EditionLinks::address($view))),
                    $before,
                    isset($views[$i + 1]) ? $views[$i + 1]->place() : $next,
                );
                foreach ($this->parts as $maker) {
                    $maker->entry($folder, $page);
                }
                $schemas[$view->schema][] = [
                    'name' => $view->name, 'title' => $view->title, 'grain' => $view->grain, 'type' => $view->facts->kind->value,
                    'described' => $view->describedCount, 'fields' => $view->fieldCount, 'path' => Slug::of($view->schema).'/'.Slug::of($view->name).'.html',
                ];
                $before = $last = $view->place();
            }
            $told(\count($views));
        } while (null !== $next);

        return $schemas;
    }

    /**
     * Entries joined with those of a batch, so that small diagrams can show them.
     *
     * @param list<EntryView> $views
     *
     * @return array<int, EntryView>
     */
    private function near(array $views): array
    {
        $near = $missing = [];
        foreach ($views as $view) {
            $near[$view->id] = $view;
        }
        foreach ($views as $view) {
            foreach (\array_slice($view->countedJoins(), 0, EntryPages::NEIGHBOURS) as $join) {
                if (!isset($near[$join->otherId()])) {
                    $missing[$join->otherId()] = $join->otherId();
                }
            }
        }
        foreach (array_chunk(array_values($missing), self::BATCH) as $chunk) {
            foreach ($this->entries->load($chunk, false) as $view) {
                $near[$view->id] = $view;
            }
        }

        return $near;
    }
}
