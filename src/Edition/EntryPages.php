<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Edition\Slug;
use Fasti\Diagram\Look;
use Fasti\Diagram\RegisterDiagram;

/** A page for each entry, made from the partials that its page in the application is made from. */
final class EntryPages extends EditionPart
{
    /** Entries around one that its small diagram shows. */
    public const NEIGHBOURS = 24;

    public function entry(Folder $folder, EntryPage $page): void
    {
        $folder->page($page->path(), 'edition/entry.html.twig', [
            'dossier' => $page->dossier,
            'entry' => $page->dossier->entry,
            'links' => $page->links,
            'svg' => self::drawing($folder->about, $page),
            'before' => self::neighbour($page->before),
            'after' => self::neighbour($page->after),
        ]);
    }

    private static function drawing(About $about, EntryPage $page): string
    {
        $entry = $page->dossier->entry;
        $members = [$entry->id => $entry];
        foreach ($entry->countedJoins() as $join) {
            if (\count($members) <= self::NEIGHBOURS && isset($page->near[$join->otherId()])) {
                $members[$join->otherId()] = $page->near[$join->otherId()];
            }
        }
        if (1 === \count($members)) {
            return '';
        }
        $link = static fn (int $id): string => $page->links->entry($id) ?? '../../index.html';
        $layout = RegisterDiagram::draw(array_values($members), new Look(Detail::Keys, $link, around: $entry->id, proposed: false));

        return SvgDrawing::draw($layout, new TitleBlock($entry->title, 'What it joins', $entry->sourceName, '', $about->date, 'Edition '.$about->number));
    }

    /** @return array{name: string, path: string}|null from the folder of the source */
    private static function neighbour(?Place $place): ?array
    {
        return null === $place ? null : ['name' => $place->name, 'path' => Slug::of($place->schema).'/'.Slug::of($place->name).'.html'];
    }
}
