<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Edition\Slug;
use Fasti\Core\Wording\Naming;
use Fasti\Support\Batch;

/** All fields of the edition, a page a letter. */
final class FieldLists extends EditionPart
{
    private const MEANING = 200;

    public function entry(Folder $folder, EntryPage $page): void
    {
        $entry = $page->dossier->entry;
        foreach ($entry->presentFields() as $field) {
            $sorted = Naming::folded($field->name);
            $row = [
                'name' => $field->name,
                'path' => $page->path().'#'.Slug::of($field->name),
                'entry' => (string) $entry->place(),
                'business' => $field->businessName,
                'type' => $field->typeWords,
                'meaning' => mb_substr($field->meaning, 0, self::MEANING),
            ];
            $folder->append(self::file(self::letter($sorted)), $sorted."\t".Batch::json($row)."\n");
        }
    }

    public function end(Folder $folder, Contents $contents): void
    {
        $letters = array_values(array_filter([...range('a', 'z'), 'other'], static fn (string $letter): bool => $folder->isOpen(self::file($letter))));
        foreach ($letters as $letter) {
            $lines = $folder->taken(self::file($letter));
            sort($lines, \SORT_STRING);
            $folder->streamed("fields/$letter.html", 'edition/fields.html.twig', ['letters' => $letters, 'letter' => $letter, 'rows' => self::rows($lines)]);
        }
        $folder->page('fields/index.html', 'edition/fields.html.twig', ['letters' => $letters, 'letter' => null, 'rows' => []]);
    }

    /**
     * @param list<string> $lines
     *
     * @return \Generator<mixed>
     */
    private static function rows(array $lines): \Generator
    {
        foreach ($lines as $line) {
            yield json_decode(explode("\t", $line, 2)[1] ?? '', true);
        }
    }

    private static function letter(string $sorted): string
    {
        $first = strtolower(substr($sorted, 0, 1));

        return 1 === preg_match('/[a-z]/', $first) ? $first : 'other';
    }

    private static function file(string $letter): string
    {
        return "fields/$letter.lines";
    }
}
