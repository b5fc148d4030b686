<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Edition\Slug;
use Fasti\Core\Wording\Amount;
use Fasti\Diagram\Look;
use Fasti\Diagram\RegisterDiagram;
use Fasti\Diagram\Scope;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;

/** A page for each source, with diagrams of it and of its schemas. */
final class SourcePages extends EditionPart
{
    /** Above so many entries only their names are drawn. */
    private const NAMES_FROM = 90;
    /** Above so many a drawing shows nothing. */
    private const MOST = 300;

    public function __construct(private readonly EntryStore $store, private readonly Entries $entries, private readonly RegisterDiagram $drawing)
    {
    }

    public function source(Folder $folder, SourceSheet $sheet): void
    {
        $diagrams = [];
        $schemas = array_map(strval(...), array_keys($sheet->schemas));
        foreach (\count($schemas) > 1 ? [null, ...$schemas] : [null] as $schema) {
            $made = $this->diagram($folder, $sheet, $schema);
            if (null !== $made) {
                $diagrams[] = $made;
            }
        }
        $folder->page(
            $sheet->slug.'/index.html',
            'edition/source.html.twig',
            ['source' => $sheet->source, 'schemas' => $sheet->schemas, 'diagrams' => $diagrams],
        );
    }

    /** @return array{name: string, path: string, entries: int}|null null where there is too much to draw */
    private function diagram(Folder $folder, SourceSheet $sheet, ?string $schema): ?array
    {
        $ids = $this->store->ids($sheet->source->id, $schema);
        if ([] === $ids || \count($ids) > self::MOST) {
            return null;
        }
        $name = $schema ?? $sheet->source->name;
        $within = null === $schema ? 'diagram.html' : Slug::of($schema).'/diagram.html';
        $path = $sheet->slug.'/'.$within;
        $views = $this->entries->load($ids);
        $addresses = [];
        foreach ($views as $view) {
            $addresses[$view->id] = EditionLinks::address($view);
        }
        $links = new EditionLinks($addresses, Folder::root($path));
        try {
            $link = static fn (int $id): string => $links->entry($id) ?? Folder::root($path).'index.html';
            $detail = \count($ids) > self::NAMES_FROM ? Detail::Names : Detail::Keys;
            $look = new Look($detail, $link, proposed: false, words: $this->drawing->words($ids));
            $layout = $this->drawing->layout(Scope::source($sheet->source->id, $schema), $ids, $look, false);
        } catch (PlacingError) {
            return null;
        }
        $about = $folder->about;
        $counted = \sprintf('Edition %d · %s, %s', $about->number, Amount::of(\count($ids), 'entry'), Amount::of(\count($layout->paths), 'join'));
        $svg = SvgDrawing::draw($layout, new TitleBlock($name, 'All entries and how they join', $sheet->source->name, $about->by, $about->date, $counted));
        $folder->page($path, 'edition/diagram.html.twig', ['name' => $name, 'svg' => $svg, 'source' => $sheet->source]);

        return ['name' => $name, 'path' => $within, 'entries' => \count($ids)];
    }
}
