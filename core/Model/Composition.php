<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;

/** How a figure is computed of others that have been taken. */
final readonly class Composition
{
    /**
     * @param list<string> $parts measures that it is computed of, none of them computed of measures
     * @param string       $sql   an expression, in which each of them stands as stands() has it
     */
    public function __construct(public array $parts, private string $sql, private AskSql $engine)
    {
    }

    /** What stands for a measure in the expression. */
    public static function stands(string $measure): string
    {
        return "\0$measure\0";
    }

    /**
     * A query that computes it of figures that are there.
     *
     * @param array<string, ?string> $figures
     */
    public function of(array $figures): string
    {
        $values = [];
        foreach ($this->parts as $part) {
            $figure = $figures[$part] ?? null;
            $values[self::stands($part)] = match (true) {
                null === $figure => 'NULL',
                is_numeric($figure) => "($figure)",
                default => $this->engine->text($figure),
            };
        }

        return 'SELECT '.strtr($this->sql, $values).' AS total';
    }
}
