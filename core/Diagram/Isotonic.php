<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** Least squares under order: the "pool adjacent violators" algorithm (Ayer et al. 1955; Barlow et al. 1972). */
final class Isotonic
{
    /**
     * Tops for boxes in a row of which each follows the one before at a given distance at least, as near as possible to
     * the tops that they would like to have.
     *
     * @param list<float|int> $wished   in order
     * @param list<float|int> $distance from the top of each box to the top of the next one, at least
     *
     * @return list<float>
     */
    public static function tops(array $wished, array $distance, float $least, float $most): array
    {
        $offset = 0.0;
        $offsets = [];
        /** @var list<array{float, int}> $pools mean and size */
        $pools = [];
        foreach ($wished as $i => $wish) {
            $offsets[] = $offset;
            $mean = (float) $wish - $offset;
            $size = 1;
            while ([] !== $pools && $pools[\count($pools) - 1][0] > $mean) {
                [$above, $aboveSize] = array_pop($pools);
                $mean = ($mean * $size + $above * $aboveSize) / ($size + $aboveSize);
                $size += $aboveSize;
            }
            $pools[] = [$mean, $size];
            $offset += $distance[$i] ?? 0;
        }
        $room = max($least, $most - ([] === $offsets ? 0.0 : $offsets[\count($offsets) - 1]));
        $tops = [];
        foreach ($pools as [$mean, $size]) {
            $mean = min($room, max($least, $mean));
            for ($i = 0; $i < $size; ++$i) {
                $tops[] = $mean + $offsets[\count($tops)];
            }
        }

        return $tops;
    }
}
