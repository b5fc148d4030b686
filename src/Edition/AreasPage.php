<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Edition\Slug;
use Fasti\Core\Wording\Naming;
use Fasti\Join\EntryRoles;
use Fasti\Join\Role;
use Fasti\Support\Batch;

/** The entries of an edition by subject area, on one page that every page leads to. */
final class AreasPage extends EditionPart
{
    private const PAGE = 'areas/index.html';
    private const LINES = 'areas/areas.lines';
    private bool $given = false;

    public function __construct(private readonly EntryRoles $roles)
    {
    }

    public function begin(Folder $folder): void
    {
        $this->given = [] !== $this->roles->areas();
        if ($this->given) {
            $folder->announce('Areas', self::PAGE);
        }
    }

    public function entry(Folder $folder, EntryPage $page): void
    {
        $area = $page->dossier->part(Role::class)->area ?? '';
        if (!$this->given || '' === $area) {
            return;
        }
        $entry = $page->dossier->entry;
        $row = ['area' => $area, 'title' => $entry->title, 'name' => $entry->name, 'source' => $entry->sourceName, 'grain' => $entry->grain];
        // A tab sorts before all letters, so that an area stands before one whose name goes on.
        $folder->append(self::LINES, Naming::folded($area)."\t$area\t".Naming::folded($entry->title)."\t".Batch::json($row + ['path' => $page->path()])."\n");
    }

    public function end(Folder $folder, Contents $contents): void
    {
        if (!$this->given) {
            return;
        }
        $lines = $folder->isOpen(self::LINES) ? $folder->taken(self::LINES) : [];
        sort($lines, \SORT_STRING);
        $sizes = array_count_values(array_map(static fn (string $line): string => explode("\t", $line, 3)[1], $lines));
        $anchors = [];
        foreach (array_keys($sizes) as $area) {
            $slug = $free = Slug::of((string) $area);
            for ($i = 2; \in_array($free, $anchors, true); ++$i) {
                $free = "$slug-$i";
            }
            $anchors[$area] = $free;
        }
        $folder->streamed(self::PAGE, 'edition/areas.html.twig', ['sizes' => $sizes, 'anchors' => $anchors, 'rows' => self::rows($lines)]);
    }

    /**
     * @param list<string> $lines
     *
     * @return \Generator<mixed>
     */
    private static function rows(array $lines): \Generator
    {
        foreach ($lines as $line) {
            yield json_decode(explode("\t", $line, 4)[3] ?? '', true);
        }
    }
}
