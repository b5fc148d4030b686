<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Join\JoinUse;
use Fasti\Register\JoinView;

/** The kept diagrams that show a join: those in which both of its ends stand. */
final readonly class DrawnJoin implements JoinUse
{
    public function __construct(private Pieces $pieces, private Diagrams $diagrams)
    {
    }

    public function of(JoinView $join): array
    {
        $in = $this->pieces->diagramsOf([$join->fromId, $join->toId]);
        $both = array_intersect($in[$join->fromId] ?? [], $in[$join->toId] ?? []);
        $used = [];
        foreach ([] === $both ? [] : $this->diagrams->all() as $diagram) {
            if (\in_array($diagram->id(), $both, true)) {
                $used[] = ['words' => 'the diagram “'.$diagram->name.'”', 'route' => 'diagram', 'parameters' => ['id' => $diagram->id()]];
            }
        }

        return $used;
    }
}
