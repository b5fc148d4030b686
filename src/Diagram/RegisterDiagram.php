<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Register\Entries;
use Fasti\Register\EntryView;
use Fasti\Register\FieldView;
use Fasti\Register\JoinView;
use Fasti\Support\Row;

/** Draws what the register holds. */
final readonly class RegisterDiagram
{
    public const MOST = 600;
    private const NEIGHBOURS = 60;

    public function __construct(private Connection $db, private Entries $entries)
    {
    }

    /** @return list<int> entries in the scope, the one it is about first */
    public function members(Scope $scope): array
    {
        if (null !== $scope->entry) {
            $ids = $this->db->fetchFirstColumn('SELECT DISTINCT IF(from_entry_id = ?, to_entry_id, from_entry_id) FROM entry_join WHERE gone_at IS NULL AND (from_entry_id = ? OR to_entry_id = ?) LIMIT '.(self::NEIGHBOURS + 1), [$scope->entry, $scope->entry, $scope->entry]);
            $ids = array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $ids);

            return array_values(array_unique([$scope->entry, ...$ids]));
        }
        $rows = $this->db->fetchFirstColumn('SELECT id FROM entry WHERE source_id = ? AND gone_at IS NULL AND ? IN (\'\', schema_name) ORDER BY schema_name, name', [$scope->source, $scope->schema ?? '']);

        return array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $rows);
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
     */
    public static function draw(array $entries, Detail $detail, bool $businessNames, array $folded, callable $link, ?int $around = null): Layout
    {
        $tablets = $lines = [];
        foreach ($entries as $entry) {
            $tablets[] = new Tablet(
                $entry->id,
                $businessNames ? $entry->title : $entry->name,
                array_map(static fn (FieldView $field): TabletRow => new TabletRow($field->name, $businessNames ? $field->title() : $field->name, $field->primary, self::tip($field->name, $field->typeWords, $field->meaning)), array_values(array_filter($entry->fields, static fn (FieldView $field): bool => !$field->gone))),
                $businessNames ? $entry->grain : '',
                TableType::Table === $entry->facts->kind ? '' : $entry->facts->kind->value,
                $link($entry->id),
                self::tip($entry->schema.'.'.$entry->name, '' === $entry->grain ? '' : 'One row per '.$entry->grain, '' === $entry->meaning ? $entry->facts->comment : $entry->meaning),
                \in_array($entry->id, $folded, true),
                $entry->id === $around,
            );
            foreach ($entry->joins as $join) {
                $lines[$join->id] ??= self::line($join);
            }
        }

        return Layout::of($tablets, array_values($lines), $detail, $around);
    }

    private static function line(JoinView $join): Line
    {
        return new Line($join->id, $join->fromId, $join->pairs[0][0] ?? '', $join->toId, $join->pairs[0][1] ?? '', $join->cardinality->from, $join->cardinality->to, $join->verb, $join->kind, $join->forth().' '.$join->back(), array_column(\array_slice($join->pairs, 1), 0), array_column(\array_slice($join->pairs, 1), 1));
    }

    private static function tip(string ...$parts): string
    {
        $text = implode("\n", array_filter($parts, static fn (string $part): bool => '' !== $part));

        return mb_strlen($text) > 400 ? mb_substr($text, 0, 400).'…' : $text;
    }

    public function sourceName(int $source): ?string
    {
        $row = $this->db->fetchAssociative('SELECT name FROM source WHERE id = ?', [$source]);

        return false === $row ? null : Row::text($row, 'name');
    }
}
