<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;

/**
 * Asks Graphviz where the nodes of a graph would lie if joins were springs: stress majorization (Gansner, Koren, North
 * 2004) by `neato`, and its multilevel kin `sfdp` (Hu 2005) for large graphs. Only the neighbourhoods of the answer are used.
 */
final class Graphviz
{
    private const LARGE = 250;

    /**
     * @param int                         $nodes numbered from 0
     * @param list<array{int, int}>       $edges
     *
     * @return list<array{float, float}> x to the right, y downwards, by node
     *
     * @throws PlacingError
     */
    public static function place(int $nodes, array $edges): array
    {
        $dot = "graph{node[shape=point,width=.1,label=\"\"];edge[len=1];start=7;\n".implode(';', range(0, max(0, $nodes - 1))).";\n";
        foreach ($edges as [$a, $b]) {
            if ($a !== $b) {
                $dot .= "$a--$b\n";
            }
        }
        $out = self::run(self::engine($nodes), $dot.'}');
        $places = array_fill(0, $nodes, [0.0, 0.0]);
        foreach (explode("\n", $out) as $line) {
            $part = explode(' ', $line);
            if ('node' === $part[0] && isset($part[3])) {
                $places[(int) $part[1]] = [(float) $part[2], -(float) $part[3]];
            }
        }

        return array_values($places);
    }

    /** @return list<string> the command line that is used for so many nodes */
    public static function engine(int $nodes): array
    {
        return $nodes > self::LARGE ? ['sfdp', '-Tplain'] : ['neato', '-Tplain'];
    }

    /** @param list<string> $command */
    private static function run(array $command, string $input): string
    {
        try {
            $program = Cage::program($command[0]);
            $out = (new Cage(['?/etc/graphviz' => '/etc/graphviz']))->run([$program, ...\array_slice($command, 1)], $input);
        } catch (CageError $e) {
            throw new PlacingError('Nothing can be placed: '.$e->getMessage(), 0, $e);
        }

        return '' !== $out ? $out : throw new PlacingError(\sprintf('Graphviz (“%s”) said nothing. bin/prepare installs a working one.', $command[0]));
    }
}
