<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Catalog\TableType;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\FieldView;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;

/** Draws what the register holds. */
final readonly class RegisterDiagram
{
    public const MOST = 600;
    private const NEIGHBOURS = 60;

    /** What is less likely than this is not drawn. */
    private const LIKELY = 0.5;

    public function __construct(private EntryStore $store, private Joins $joins, private Entries $entries)
    {
    }

    /** @return list<int> entries in the scope, the one it is about first */
    public function members(Scope $scope): array
    {
        if (null !== $scope->entry) {
            return array_values(array_unique([$scope->entry, ...$this->joins->neighbours($scope->entry, self::NEIGHBOURS + 1)]));
        }

        return $this->store->ids($scope->source ?? 0, $scope->schema);
    }

    /**
     * @param list<int>             $members what members() gave for the scope
     * @param list<int>             $folded  entries to show by name only
     * @param callable(int): string $link    address of an entry
     *
     * @throws TooLarge
     * @throws \Fasti\Core\Diagram\PlacingError
     */
    public function layout(Scope $scope, array $members, Detail $detail, bool $businessNames, array $folded, callable $link): Layout
    {
        if (\count($members) > self::MOST) {
            throw new TooLarge(\count($members));
        }

        return self::draw($this->entries->load($members), $detail, $businessNames, $folded, $link, $scope->entry);
    }

    /**
     * @param list<EntryView>       $entries
     * @param list<int>             $folded
     * @param callable(int): string $link
     * @param bool                  $proposed whether joins that are only proposed are drawn, faint
     */
    public static function draw(
        array $entries,
        Detail $detail,
        bool $businessNames,
        array $folded,
        callable $link,
        ?int $around = null,
        bool $proposed = true,
    ): Layout {
        $tablets = $lines = [];
        foreach ($entries as $entry) {
            $tablets[] = new Tablet(
                $entry->id,
                $businessNames ? $entry->title : $entry->name,
                array_map(
                    static fn (FieldView $field): TabletRow => new TabletRow(
                        $field->name,
                        $businessNames ? $field->title() : $field->name,
                        $field->primary,
                        self::tip($field->name, $field->typeWords, $field->meaning),
                    ),
                    $entry->presentFields(),
                ),
                $businessNames ? $entry->grain : '',
                TableType::Table === $entry->facts->kind ? '' : $entry->facts->kind->value,
                $link($entry->id),
                self::tip(
                    (string) $entry->place(),
                    '' === $entry->grain ? '' : 'One row per '.$entry->grain,
                    '' === $entry->meaning ? $entry->facts->comment : $entry->meaning,
                ),
                \in_array($entry->id, $folded, true),
                $entry->id === $around,
            );
            foreach ($proposed ? $entry->joins : $entry->countedJoins() as $join) {
                if (!$join->kind->counts() && ($join->confidence ?? 1.0) < self::LIKELY) {
                    continue;
                }
                $lines[$join->id] ??= self::line($join);
            }
        }

        return Layout::of($tablets, array_values($lines), $detail, $around);
    }

    private static function line(JoinView $join): Line
    {
        return new Line(
            $join->id,
            $join->fromId,
            $join->pairs[0][0] ?? '',
            $join->toId,
            $join->pairs[0][1] ?? '',
            $join->cardinality->from,
            $join->cardinality->to,
            $join->verb,
            $join->kind->value,
            $join->forth().' '.$join->back(),
            array_column(\array_slice($join->pairs, 1), 0),
            array_column(\array_slice($join->pairs, 1), 1),
        );
    }

    private static function tip(string ...$parts): string
    {
        $text = implode("\n", array_filter($parts, static fn (string $part): bool => '' !== $part));

        return mb_strlen($text) > 400 ? mb_substr($text, 0, 400).'…' : $text;
    }
}
