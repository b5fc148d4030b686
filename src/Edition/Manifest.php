<?php

declare(strict_types=1);

namespace Fasti\Edition;

/** What programs are told of an edition. */
final class Manifest extends EditionPart
{
    public function end(Folder $folder, Contents $contents): void
    {
        $about = $folder->about;
        $folder->write('edition.json', json_encode([
            'made by' => 'Fasti', 'number' => $about->number, 'title' => $about->title, 'date' => $about->date,
            'entries' => $contents->entries, 'fields' => $contents->fields, 'described' => $contents->described,
            'sources' => array_map(static fn (SourceSheet $sheet): string => $sheet->source->name, $contents->sheets),
        ], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE));
    }
}
