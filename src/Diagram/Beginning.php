<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Account\Account;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Detail;
use Fasti\Text\BadText;

/** Begins diagrams that are kept. */
final readonly class Beginning
{
    public function __construct(private Diagrams $diagrams, private Board $board, private KeptDrawing $drawing)
    {
    }

    /**
     * @param array<int, array{float, float}> $places by entry
     */
    public function begin(Account $account, string $name, string $purpose, array $places, Detail $detail): Diagram
    {
        $pieces = ['detail' => ['shows' => $detail->value]];
        foreach ($places as $entry => [$x, $y]) {
            $pieces['t'.$entry] = ['x' => $x, 'y' => $y, 'auto' => true];
        }
        $diagram = $this->diagrams->keep($this->free($name), $purpose, $account);
        $this->board->apply($account, $diagram->id(), $pieces, [], 0, 'made');
        $this->lookedAfter($this->diagrams->fresh($diagram));

        return $diagram;
    }

    /**
     * @param list<int> $entries
     *
     * @throws BadText where the name is taken or missing
     * @throws \Fasti\Core\Diagram\PlacingError
     */
    public function beginOf(Account $account, string $name, string $purpose, array $entries): Diagram
    {
        $name = $this->diagrams->free($name);
        $detail = \count($entries) <= 8 ? Detail::All : Detail::Keys;
        $bare = new Arrangement(
            array_fill_keys(array_map(static fn (int $entry): string => 't'.$entry, $entries), []) + ['detail' => ['shows' => $detail->value]],
        );
        $pieces = [] === $entries ? [] : $this->drawing->arrange($bare, $this->drawing->entries($bare), 'all');
        $places = [];
        foreach ($pieces as $key => $piece) {
            $entry = Arrangement::entry($key);
            if (null !== $entry && \is_float($piece['x'] ?? null) && \is_float($piece['y'] ?? null)) {
                $places[$entry] = [$piece['x'], $piece['y']];
            }
        }

        return $this->begin($account, $name, $this->diagrams->purpose($purpose), $places, $detail);
    }

    /** What the diagram shows now is what is known of its sources. */
    public function lookedAfter(Diagram $diagram): void
    {
        $diagram->known = Known::of($this->drawing->entries($this->drawing->arrangement($diagram)))->json();
        $this->diagrams->save();
    }

    private function free(string $name): string
    {
        $name = mb_substr($name, 0, 110);
        $free = $name;
        for ($i = 2; null !== $this->diagrams->named($free); ++$i) {
            $free = "$name ($i)";
        }

        return $free;
    }
}
