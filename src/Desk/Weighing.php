<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Fasti\Core\Draft\Worth;
use Fasti\Core\Survey\Uncollected;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;
use Fasti\Diagram\Pieces;
use Fasti\Draft\DraftStore;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\JoinCounts;

/**
 * Weighs what nobody has described of a source.
 *
 * @phpstan-import-type Item from Queue
 */
final readonly class Weighing
{
    private const MOST_SOUGHT = 300;

    public function __construct(
        private EntryStore $entries,
        private Fields $fields,
        private JoinCounts $joins,
        private Pieces $pieces,
        private DraftStore $drafts,
        private Queue $queue,
    ) {
    }

    public function source(int $source): void
    {
        Uncollected::run(fn () => $this->weigh($source));
    }

    private function weigh(int $source): void
    {
        $entries = $this->entries->weighed($source);
        $degrees = $this->joins->degrees($source);
        $diagrams = [] === $entries ? [] : $this->pieces->diagramsOf(array_keys($entries));
        $sought = $this->sought();
        $named = [] === $sought ? [] : $this->drafts->proposedNames(array_keys($entries));
        $drafted = $this->drafts->withMeaning(array_keys($entries));
        $items = [];
        foreach ($entries as $id => $entry) {
            if (!$entry->described) {
                $words = $this->words($entry->name.' '.$entry->title.' '.($named['entry'][$id] ?? ''));
                [$worth, $why] = Worth::of($degrees[$id] ?? 0, $entry->rows, \count($diagrams[$id] ?? []), 0, self::times($sought, $words));
                $items[] = ['topic' => 'entry', 'id' => $id, 'entry' => $id, 'source' => $source, 'worth' => $worth, 'why' => $why,
                    'drafted' => isset($drafted['entry'][$id])];
            }
        }
        foreach ($this->fields->undescribed($source) as $field) {
            $entry = $entries[$field->entry] ?? null;
            if (null !== $entry) {
                $times = [] === $sought ? 0 : self::times($sought, $this->words($field->name.' '.$entry->title.' '.($named['field'][$field->id] ?? '')));
                [$worth, $why] = Worth::of($degrees[$field->entry] ?? 0, $entry->rows, \count($diagrams[$field->entry] ?? []), max(1, $field->alike),
                    $times);
                $items[] = ['topic' => 'field', 'id' => $field->id, 'entry' => $field->entry, 'source' => $source, 'worth' => $worth, 'why' => $why,
                    'drafted' => isset($drafted['field'][$field->id])];
            }
        }
        $this->queue->replace($source, $items);
    }

    /** @return list<array{list<string>, int}> words that were looked for in vain, and how often */
    private function sought(): array
    {
        $sought = [];
        foreach ($this->queue->soughtOften(self::MOST_SOUGHT) as $words => $times) {
            $list = array_keys($this->words((string) $words));
            if ([] !== $list) {
                $sought[] = [array_map(strval(...), $list), $times];
            }
        }

        return $sought;
    }

    /**
     * @param list<array{list<string>, int}> $sought
     * @param array<array-key, true>         $words
     */
    private static function times(array $sought, array $words): int
    {
        $times = 0;
        foreach ($sought as [$list, $n]) {
            $times += [] === array_filter($list, static fn (string $word): bool => !isset($words[$word])) ? $n : 0;
        }

        return $times;
    }

    /** @return array<array-key, true> */
    private function words(string $text): array
    {
        return array_fill_keys(array_map(Noun::singular(...), Naming::words($text)), true);
    }
}
