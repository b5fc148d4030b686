<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Account\AccountStore;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Piece\PieceKind;
use Fasti\Core\Diagram\SceneError;
use Fasti\Core\Wording\Enumeration;
use Fasti\Support\Batch;
use Fasti\Support\Row;
use Fasti\Text\BadText;

/** What stands where on kept diagrams. */
final readonly class Pieces
{
    private const MOST_TABLETS = 2500;
    private const MOST_NOTES = 500;

    public function __construct(private Connection $db, private AccountStore $accounts)
    {
    }

    public function of(int $diagram): Arrangement
    {
        return $this->ofAll([$diagram])[$diagram] ?? new Arrangement([]);
    }

    /**
     * @param list<int> $diagrams
     *
     * @return array<int, Arrangement>
     */
    public function ofAll(array $diagrams): array
    {
        $pieces = [];
        foreach ([] === $diagrams ? [] : $this->db->iterateAssociative(
            'SELECT diagram_id, piece, value FROM diagram_piece WHERE diagram_id IN (?) AND value IS NOT NULL ORDER BY diagram_id, piece',
            [$diagrams],
            [ArrayParameterType::INTEGER],
        ) as $row) {
            $key = Row::text($row, 'piece');
            try {
                $pieces[Row::int($row, 'diagram_id')][$key] = Arrangement::checked($key, json_decode(Row::text($row, 'value'), true));
            } catch (SceneError) {
                // Nothing is kept that was not checked; a piece of a later version of Fasti is left alone.
            }
        }

        return array_map(static fn (array $own): Arrangement => new Arrangement($own), $pieces);
    }

    /**
     * Writes pieces one by one: whoever writes last has it. Within a transaction that holds the diagram.
     *
     * @param array<string, array<string, mixed>|null> $pieces null for one that is removed
     *
     * @return int the number of this move
     */
    public function write(int $diagram, int $account, array $pieces): int
    {
        $this->bounded($diagram, $pieces);
        $this->db->executeStatement('UPDATE diagram SET moves = moves + 1, changed_at = UTC_TIMESTAMP() WHERE id = ?', [$diagram]);
        $move = $this->moves($diagram);
        $rows = [];
        foreach ($pieces as $key => $value) {
            $rows[] = [$diagram, $key, Arrangement::entry($key), null === $value ? null : Batch::json($value), $move, $account];
        }
        Batch::insert($this->db, 'INSERT INTO diagram_piece (diagram_id, piece, entry_id, value, move, account_id) VALUES', $rows,
            'ON DUPLICATE KEY UPDATE value = VALUES(value), move = VALUES(move), account_id = VALUES(account_id)');

        return $move;
    }

    /**
     * @param array<string, array<string, mixed>|null> $pieces
     *
     * @throws BadText where there would be more of them than can be drawn
     */
    private function bounded(int $diagram, array $pieces): void
    {
        $there = [];
        foreach ($this->db->iterateAssociative('SELECT piece FROM diagram_piece WHERE diagram_id = ? AND value IS NOT NULL', [$diagram]) as $row) {
            $there[Row::text($row, 'piece')] = true;
        }
        $before = \count($there);
        foreach ($pieces as $key => $value) {
            if (null === $value) {
                unset($there[$key]);
            } else {
                $there[(string) $key] = true;
            }
        }
        $count = \count($there);
        $tablets = \count(array_filter(array_keys($there), static fn (int|string $key): bool => null !== Arrangement::entry((string) $key)));
        $kinds = Enumeration::of(array_map(static fn (PieceKind $piece): string => $piece->name().'s', PieceKind::known()));
        foreach ([['entries', $tablets, self::MOST_TABLETS], [$kinds, $count - $tablets, self::MOST_NOTES]] as [$of, $now, $most]) {
            if ($now > $most && $count > $before) {
                throw new BadText(\sprintf(
                    'A diagram holds %s %s at the most, and this would be %s. Make several of it.',
                    number_format($most),
                    $of,
                    number_format($now),
                ));
            }
        }
    }

    public function moves(int $diagram): int
    {
        return Row::int(['n' => $this->db->fetchOne('SELECT moves FROM diagram WHERE id = ?', [$diagram])], 'n');
    }

    /**
     * What others have changed since a move.
     *
     * @return array<string, array{by: string, value: array<string, mixed>|null}> by piece
     */
    public function since(int $diagram, int $move, int $except): array
    {
        $rows = $this->db->fetchAllAssociative(
            'SELECT piece, value, account_id FROM diagram_piece WHERE diagram_id = ? AND move > ? AND account_id <> ? ORDER BY move, piece',
            [$diagram, $move, $except],
        );
        $names = $this->accounts->names(array_map(static fn (array $row): int => Row::int($row, 'account_id'), $rows));
        $changed = [];
        foreach ($rows as $row) {
            $value = Row::text($row, 'value');
            $open = '' === $value ? null : json_decode($value, true);
            /** @var array<string, mixed>|null $kept */
            $kept = \is_array($open) ? $open : null;
            $changed[Row::text($row, 'piece')] = ['by' => $names[Row::int($row, 'account_id')] ?? '', 'value' => $kept];
        }

        return $changed;
    }

    /**
     * The diagrams that entries stand in.
     *
     * @param list<int> $entries
     *
     * @return array<int, list<int>> entry → diagrams
     */
    public function diagramsOf(array $entries): array
    {
        $found = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative(
                'SELECT entry_id, diagram_id FROM diagram_piece WHERE entry_id IN (?) AND value IS NOT NULL ORDER BY entry_id, diagram_id',
                [$chunk],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $found[Row::int($row, 'entry_id')][] = Row::int($row, 'diagram_id');
            }
        }

        return $found;
    }

    /** A condition on the column e.id of entries: those in a diagram. */
    public function standsIn(int $diagram): string
    {
        return 'e.id IN (SELECT entry_id FROM diagram_piece WHERE value IS NOT NULL AND diagram_id = '.$diagram.')';
    }

    /** @param array<int, list<array{float, float}>> $ways */
    public function keepWays(int $diagram, array $ways): void
    {
        $this->db->executeStatement('UPDATE diagram SET ways = ? WHERE id = ?', [Batch::json((object) $ways), $diagram]);
    }
}
