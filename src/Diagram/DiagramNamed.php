<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Register\Understanding;

/** Kept diagrams, by the words of their names and purposes, wherever one searches. */
final readonly class DiagramNamed implements Understanding
{
    private const MOST = 5;
    private const LEAST = 3;

    public function __construct(private Diagrams $diagrams)
    {
    }

    public function of(string $query): array
    {
        return array_map(
            static fn (Diagram $diagram): array => ['words' => 'Diagram: '.$diagram->name, 'route' => 'diagram', 'parameters' => ['id' => $diagram->id()]],
            mb_strlen($query) < self::LEAST ? [] : \array_slice($this->diagrams->all($query), 0, self::MOST),
        );
    }
}
