<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

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
        $process = @proc_open($command, [['pipe', 'r'], ['pipe', 'w'], ['file', '/dev/null', 'w']], $pipes);
        if (false === $process) {
            throw new PlacingError(\sprintf('Graphviz is not installed (there is no “%s”). bin/prepare installs it.', $command[0]));
        }
        fwrite($pipes[0], $input);
        fclose($pipes[0]);
        $out = (string) stream_get_contents($pipes[1]);
        fclose($pipes[1]);
        $code = proc_close($process);
        if (0 !== $code || '' === $out) {
            throw new PlacingError(\sprintf('Graphviz failed (“%s” ended with %d). bin/prepare installs a working one.', $command[0], $code));
        }

        return $out;
    }
}
