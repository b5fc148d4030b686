<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Catalog\TableType;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Path;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Wording\Amount;
use Fasti\Join\EntryRoles;
use Fasti\Join\Role;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\EntryView;
use Fasti\Register\FieldView;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;

/** Draws what the register holds. */
final readonly class RegisterDiagram
{
    private const NEIGHBOURS = 60;

    /** What is less likely than this is not drawn. */
    private const LIKELY = 0.5;
    /** Kinds that a tablet tells in a word. */
    private const TOLD = ['fact', 'dimension', 'link', 'code table'];

    public function __construct(
        private EntryStore $store,
        private Joins $joins,
        private Entries $entries,
        private EntryRoles $roles,
        private Placings $placings,
    ) {
    }

    /** @return list<int> entries in the scope, the one it is about first */
    public function members(Scope $scope): array
    {
        if (null === $scope->entry) {
            return $this->store->ids($scope->source ?? 0, $scope->schema);
        }
        $members = [$scope->entry => true];
        for ($step = 0, $edge = [$scope->entry]; $step < $scope->steps && [] !== $edge; ++$step) {
            $next = [];
            foreach ($edge as $entry) {
                foreach ($this->joins->neighbours($entry, self::NEIGHBOURS + 1) as $other) {
                    if (!isset($members[$other]) && \count($members) <= self::NEIGHBOURS * $scope->steps) {
                        $members[$other] = true;
                        $next[] = $other;
                    }
                }
            }
            $edge = $next;
        }
        foreach ($scope->beyond as $entry) {
            $members += array_fill_keys(isset($members[$entry]) ? $this->joins->neighbours($entry, self::NEIGHBOURS) : [], true);
        }

        return array_keys($members);
    }

    /**
     * A diagram that Fasti places by itself; what has not changed since it was looked at last stays where it stood.
     *
     * @param list<int> $members
     * @param bool      $keep    whether it is remembered how it was placed
     *
     * @throws \Fasti\Core\Diagram\PlacingError
     */
    public function layout(Scope $scope, array $members, Look $look, bool $keep = true): Layout
    {
        [$tablets, $lines] = self::parts($this->entries->load($members), $look);
        $key = $scope->key().' '.$look->detail->value.($look->businessNames ? '' : ' identifiers')
            .([] === $look->folded ? '' : ' '.md5(implode(',', $look->folded)));

        return $this->placings->layout($key, $tablets, $lines, $look, $keep);
    }

    /**
     * The same for a page of paper, which it is to fill.
     *
     * @param list<int> $members
     *
     * @throws \Fasti\Core\Diagram\PlacingError
     */
    public function onPaper(array $members, Look $look): Layout
    {
        [$tablets, $lines] = self::parts($this->entries->load($members), $look);

        return Layout::of($tablets, $lines, $look->detail, $look->around, Raster::SHAPE);
    }

    /**
     * @param list<EntryView> $entries
     *
     * @throws \Fasti\Core\Diagram\PlacingError
     */
    public static function draw(array $entries, Look $look): Layout
    {
        return Layout::of(...[...self::parts($entries, $look), $look->detail, $look->around]);
    }

    /**
     * A diagram that people have arranged.
     *
     * @param list<EntryView>                       $entries
     * @param array<int, list<array{float, float}>> $ways    how its lines were led before
     */
    public static function arranged(array $entries, Look $look, Arrangement $arrangement, array $ways): Layout
    {
        [$tablets, $lines] = self::parts($entries, $look);

        return Layout::arranged(
            array_map($arrangement->shown(...), $tablets),
            $lines,
            $arrangement->detail() ?? $look->detail,
            $arrangement->places(),
            $arrangement->notes(),
            $ways,
        );
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, string> entry → its kind, where that is worth a word
     */
    public function words(array $entries): array
    {
        $kinds = array_map(static fn (Role $role): string => $role->kind(), $this->roles->of($entries));

        return array_filter($kinds, static fn (string $kind): bool => \in_array($kind, self::TOLD, true));
    }

    /**
     * @param list<int> $entries
     *
     * @return array<string, list<int>> subject area → those of the entries that stand in it
     */
    public function areas(array $entries): array
    {
        $areas = [];
        foreach ($this->roles->of($entries) as $entry => $role) {
            if ('' !== $role->area) {
                $areas[$role->area][] = $entry;
            }
        }

        return $areas;
    }

    /** How much a drawing shows, in words; joins that are only proposed are not counted among the others. */
    public static function counted(Layout $layout): string
    {
        $proposed = \count(array_filter($layout->paths, static fn (Path $path): bool => 'proposed' === $path->line->kind));
        $silent = \count(array_filter($layout->paths, static fn (Path $path): bool => '' !== $path->line->verb && null === $path->label()));

        return Amount::of(\count($layout->shapes), 'entry').', '.Amount::of(\count($layout->paths) - $proposed, 'join')
            .(0 === $proposed ? '' : \sprintf(' and %s proposed', Amount::count($proposed)))
            .(0 === $silent ? '' : \sprintf('; no room for %s', Amount::of($silent, 'verb')));
    }

    /** Whether a join is drawn at all: one that is only proposed has to be likely. */
    public static function isDrawn(JoinView $join): bool
    {
        return $join->kind->counts() || ($join->confidence ?? 1.0) >= self::LIKELY;
    }

    /**
     * @param list<EntryView> $entries
     *
     * @return array{list<Tablet>, list<Line>}
     */
    public static function parts(array $entries, Look $look): array
    {
        $tablets = $lines = [];
        $inside = array_fill_keys(array_map(static fn (EntryView $entry): int => $entry->id, $entries), true);
        foreach ($entries as $entry) {
            $tablets[] = self::tablet($entry, $look, $inside);
            foreach ($look->proposed ? $entry->joins : $entry->countedJoins() as $join) {
                if (self::isDrawn($join)) {
                    $lines[$join->id] ??= self::line($join);
                }
            }
        }

        return [$tablets, array_values($lines)];
    }

    /** @param array<int, true> $inside entries of the diagram */
    private static function tablet(EntryView $entry, Look $look, array $inside): Tablet
    {
        $leading = [];
        $outside = 0;
        foreach ($entry->countedJoins() as $join) {
            $outside += isset($inside[$join->otherId()]) ? 0 : 1;
            $leading += array_fill_keys(array_column($join->pairs, $join->out ? 0 : 1), true);
        }
        $kind = $entry->facts->kind;

        return new Tablet(
            $entry->id,
            $look->businessNames ? $entry->title : $entry->name,
            array_map(
                static fn (FieldView $field): TabletRow => new TabletRow(
                    $field->name,
                    $look->businessNames ? $field->title() : $field->name,
                    $field->primary,
                    self::tip($field->name, $field->typeWords, $field->meaning),
                    $field->typeWords.($field->column->nullable ? ', or empty' : ''),
                    isset($leading[$field->name]),
                ),
                $entry->presentFields(),
            ),
            $look->businessNames ? $entry->grain : '',
            match (true) {
                null !== $entry->goneAt => 'gone',
                TableType::Table !== $kind => $kind->value,
                default => $look->words[$entry->id] ?? '',
            },
            ($look->link)($entry->id),
            self::tip(
                (string) $entry->place(),
                '' === $entry->grain ? '' : 'One row per '.$entry->grain,
                '' === $entry->meaning ? $entry->facts->comment : $entry->meaning,
            ),
            \in_array($entry->id, $look->folded, true),
            $entry->id === $look->around,
            spoken: $look->businessNames,
            leads: $look->leads ? $outside : 0,
            gone: null !== $entry->goneAt,
        );
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
