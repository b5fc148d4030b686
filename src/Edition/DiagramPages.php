<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\SmallPicture;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Diagram\Beyond;
use Fasti\Diagram\Diagram;
use Fasti\Diagram\Diagrams;
use Fasti\Diagram\KeptDrawing;
use Fasti\Register\EntryView;

/** A page for each diagram that is kept, and a list of them that every page leads to. */
final class DiagramPages extends EditionPart
{
    private const LIST = 'diagrams/index.html';
    private bool $given = false;

    public function __construct(private readonly Diagrams $diagrams, private readonly KeptDrawing $drawing)
    {
    }

    public static function path(int $diagram): string
    {
        return "diagrams/$diagram.html";
    }

    public function begin(Folder $folder): void
    {
        $this->given = [] !== $this->diagrams->all();
        if ($this->given) {
            $folder->announce('Diagrams', self::LIST);
        }
    }

    public function end(Folder $folder, Contents $contents): void
    {
        if (!$this->given) {
            return;
        }
        $sources = array_map(static fn (SourceSheet $sheet): int => $sheet->source->id, $contents->sheets);
        $made = [];
        foreach ($this->diagrams->all() as $diagram) {
            $page = $this->diagram($folder, $diagram, $sources);
            if (null !== $page) {
                $made[] = $page;
            }
        }
        $folder->page(self::LIST, 'edition/diagrams.html.twig', ['diagrams' => $made]);
    }

    /**
     * @param list<int> $sources of the edition; what a diagram shows of others is not in it
     *
     * @return array{diagram: Diagram, path: string, small: string, entries: int}|null null where nothing of it is
     */
    private function diagram(Folder $folder, Diagram $diagram, array $sources): ?array
    {
        $path = self::path($diagram->id());
        $arrangement = $this->drawing->arrangement($diagram);
        $all = $this->drawing->entries($arrangement);
        $entries = array_values(
            array_filter($all, static fn (EntryView $entry): bool => \in_array($entry->sourceId, $sources, true) && null === $entry->goneAt),
        );
        if ([] === $entries) {
            return null;
        }
        $links = new EditionLinks(
            array_column(array_map(static fn (EntryView $entry): array => [$entry->id, EditionLinks::address($entry)], $entries), 1, 0),
            Folder::root($path),
        );
        $look = $this->drawing->look($entries, static fn (int $id): string => $links->entry($id) ?? '', true, false);
        $own = $arrangement->detail() ?? Detail::Keys;
        $levels = [];
        $small = '';
        foreach (array_unique([$own, ...Detail::cases()], \SORT_REGULAR) as $detail) {
            $layout = $this->drawing->layout($diagram, $arrangement, $entries, $look, $detail);
            $small = '' === $small ? SmallPicture::of($layout) : $small;
            $levels[$detail->value] = [
                'svg' => SvgDrawing::draw($layout, KeptDrawing::block($diagram, $entries, $layout, 'Edition '.$folder->about->number)),
                'words' => explode("\n", SvgDrawing::inWords($layout)),
            ];
        }
        $folder->page($path, 'edition/kept.html.twig', [
            'diagram' => $diagram, 'levels' => $levels, 'own' => $own->value, 'beyond' => Beyond::of($entries), 'left' => \count($all) - \count($entries),
            'entries' => array_map(
                static fn (EntryView $entry): array => ['title' => $entry->title, 'grain' => $entry->grain, 'path' => $links->entry($entry->id)],
                $entries,
            ),
        ]);

        return ['diagram' => $diagram, 'path' => $path, 'small' => $small, 'entries' => \count($entries)];
    }
}
