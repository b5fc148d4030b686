<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Edition\Slug;
use Fasti\Support\Batch;

/** What the search of an edition looks through: a script, since a page on disk may not fetch. */
final class SearchFile extends EditionPart
{
    private const PATH = 'search.js';
    private const FIELD_TEXT = 160;
    private const ENTRY_TEXT = 200;

    public function begin(Folder $folder): void
    {
        $folder->append(self::PATH, "window.fastiSearch=[\n");
    }

    public function entry(Folder $folder, EntryPage $page): void
    {
        $entry = $page->dossier->entry;
        $fields = [];
        foreach ($entry->presentFields() as $field) {
            $anchor = Slug::of($field->name);
            $fields[] = [$field->name, $field->businessName, mb_substr($field->meaning, 0, self::FIELD_TEXT), ...($anchor === $field->name ? [] : [$anchor])];
        }
        $folder->append(
            self::PATH,
            Batch::json([
                $entry->name,
                $entry->title,
                $entry->sourceName.' · '.$entry->schema,
                $page->path(),
                mb_substr($entry->meaning, 0, self::ENTRY_TEXT),
                $fields,
            ]).",\n",
        );
    }

    public function end(Folder $folder, Contents $contents): void
    {
        $folder->append(self::PATH, "];\n");
    }
}
