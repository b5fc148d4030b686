<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\DBAL\Connection;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Tablet;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/** Lays out diagrams that draw themselves, and remembers how, so that what has not changed stays where it stood. */
final readonly class Placings
{
    /** When more than this share of a diagram has come or gone since it was laid out, it is laid out anew. */
    private const MOST = 0.2;

    public function __construct(private Connection $db)
    {
    }

    /**
     * @param string       $scope what the diagram is of, and how it is looked at
     * @param list<Tablet> $tablets
     * @param list<Line>   $lines
     * @param bool         $keep  whether what is found is remembered
     *
     * @throws \Fasti\Core\Diagram\PlacingError
     */
    public function layout(string $scope, array $tablets, array $lines, Look $look, bool $keep = true): Layout
    {
        $row = $this->db->fetchAssociative('SELECT places, changes FROM diagram_placing WHERE scope = ?', [$scope]);
        $places = false === $row ? [] : self::places($row);
        $ids = array_map(static fn (Tablet $tablet): int => $tablet->id, $tablets);
        $came = \count(array_diff($ids, array_keys($places)));
        $went = \count(array_diff(array_keys($places), $ids));
        $changes = (false === $row ? 0 : Row::int($row, 'changes')) + $came + $went;
        $anew = [] === $places || $changes > max(1, self::MOST * \count($ids));
        $layout = $anew || 0 === $changes
            ? Layout::of($tablets, $lines, $look->detail, $look->around)
            : Layout::arranged($tablets, $lines, $look->detail, array_intersect_key($places, array_flip($ids)));
        if ($keep && ($anew || $came + $went > 0)) {
            $this->db->executeStatement(
                'INSERT INTO diagram_placing (scope, places, changes) VALUES (?, ?, ?)
                    ON DUPLICATE KEY UPDATE places = VALUES(places), changes = VALUES(changes)',
                [$scope, Batch::json((object) $layout->places()), $anew ? 0 : $changes],
            );
        }

        return $layout;
    }

    /**
     * @param array<string, mixed> $row
     *
     * @return array<int, array{float, float}>
     */
    private static function places(array $row): array
    {
        $places = [];
        foreach (Row::json($row, 'places') as $entry => $place) {
            if (\is_array($place) && is_numeric($place[0] ?? null) && is_numeric($place[1] ?? null)) {
                $places[(int) $entry] = [(float) $place[0], (float) $place[1]];
            }
        }

        return $places;
    }
}
