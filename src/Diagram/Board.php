<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\SceneError;
use Fasti\Diagram\Topic\DiagramTopic;
use Fasti\Text\BadText;
use Fasti\Text\History;

/** Where what people do on a diagram is written: piece by piece, so that two can work on one, and a sitting as one change of its history. */
final readonly class Board
{
    public function __construct(private Connection $db, private DiagramTopic $topic, private Pieces $pieces, private History $history)
    {
    }

    /**
     * @param array<mixed>                          $changes piece → value, or null to remove it
     * @param array<int, list<array{float, float}>> $ways    how lines are led now
     * @param int                                   $since   the move up to which the person had seen what others did
     *
     * @return array{move: int, met: array<string, string>} and who had changed what is overwritten now
     *
     * @throws BadText
     */
    public function apply(Account $account, int $diagram, array $changes, array $ways, int $since, string $sitting): array
    {
        $pieces = [];
        foreach ($changes as $key => $value) {
            try {
                $pieces[(string) $key] = null === $value ? null : Arrangement::checked((string) $key, $value);
            } catch (SceneError $e) {
                throw new BadText($e->getMessage());
            }
        }

        return $this->db->transactional(function () use ($account, $diagram, $pieces, $ways, $since, $sitting): array {
            $subject = $this->topic->locked($diagram) ?? throw new BadText('This diagram is not there any more.');
            $others = array_intersect_key($this->pieces->since($diagram, $since, $account->id()), $pieces);
            $before = $this->pieces->of($diagram)->json();
            $move = [] === $pieces ? $this->pieces->moves($diagram) : $this->pieces->write($diagram, $account->id(), $pieces);
            if ([] !== $ways) {
                $this->pieces->keepWays($diagram, $ways);
            }
            $after = $this->pieces->of($diagram)->json();
            if ($after !== $before) {
                $last = $this->history->last(DiagramTopic::NAME, $diagram, DiagramProperties::ARRANGEMENT);
                if (null !== $last && $last->account === $account->id() && $last->sitting === $sitting) {
                    $this->history->extend($last->id, $after);
                } else {
                    $this->history->note($account, $subject, DiagramProperties::ARRANGEMENT, $before, $after, $sitting);
                }
            }

            return ['move' => $move, 'met' => array_map(static fn (array $change): string => $change['by'], $others)];
        });
    }
}
