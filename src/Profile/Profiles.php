<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Profile\ProfileArray;
use Fasti\Core\Profile\TableProfile;
use Fasti\Register\EntryKnown;
use Fasti\Register\EntryStore;
use Fasti\Support\Batch;
use Fasti\Support\Row;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** The profiles that are kept, one for each entry. */
final readonly class Profiles
{
    public function __construct(private Connection $db, private EntryStore $entries, private EventDispatcherInterface $events)
    {
    }

    public function of(int $entryId): ?Profiled
    {
        return $this->all([$entryId])[$entryId] ?? null;
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, Profiled> by entry
     */
    public function all(array $entries): array
    {
        $profiles = [];
        if ([] !== $entries) {
            foreach ($this->db->iterateAssociative(
                'SELECT entry_id, taken_at, figures FROM profile WHERE entry_id IN (?)',
                [$entries],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $profiles[Row::int($row, 'entry_id')] = new Profiled(ProfileArray::read(Row::json($row, 'figures')), Row::text($row, 'taken_at'));
            }
        }

        return $profiles;
    }

    public function keep(int $entryId, TableProfile $profile): void
    {
        $this->db->executeStatement(
            'INSERT INTO profile (entry_id, taken_at, figures) VALUES (?, UTC_TIMESTAMP(), ?) ON DUPLICATE KEY UPDATE taken_at =
                VALUES(taken_at), figures = VALUES(figures)',
            [$entryId, Batch::json(ProfileArray::of($profile))],
        );
        $this->entries->counted($entryId, $profile->rows);
        $this->events->dispatch(new EntryKnown($entryId));
    }

    /** Takes away whatever values of a field are kept, once somebody says that they are personal. */
    public function forget(int $entryId, string $field): void
    {
        $this->changed($entryId, static function (array $fields) use ($field): array {
            if (\is_array($fields[$field] ?? null)) {
                $fields[$field] = Privacy::WITHOUT_VALUES + ['personal' => Privacy::STEWARD_SAYS] + $fields[$field];
            }

            return $fields;
        });
    }

    /** @param array<string, string> $names of fields, old → new */
    public function rename(int $entryId, array $names): void
    {
        $this->changed($entryId, static function (array $fields) use ($names): array {
            $renamed = [];
            foreach ($fields as $name => $field) {
                $renamed[$names[$name] ?? $name] = $field;
            }

            return $renamed;
        });
    }

    /**
     * Entries of a source in the order in which they are to be looked at: those that never were first, then the oldest.
     *
     * @param list<int> $entries
     *
     * @return list<int>
     */
    public function ordered(array $entries): array
    {
        $taken = array_map(static fn (Profiled $profiled): string => $profiled->at, $this->all($entries));
        usort($entries, static fn (int $a, int $b): int => ($taken[$a] ?? '') <=> ($taken[$b] ?? ''));

        return $entries;
    }

    /**
     * @param list<int> $entries
     *
     * @return int how many of them have one
     */
    public function count(array $entries): int
    {
        return [] === $entries ? 0 : Row::int(
            ['n' => $this->db->fetchOne('SELECT COUNT(*) FROM profile WHERE entry_id IN (?)', [$entries], [ArrayParameterType::INTEGER])],
            'n',
        );
    }

    /** @param callable(array<mixed>): array<mixed> $change of its fields, in their open form */
    private function changed(int $entryId, callable $change): void
    {
        $row = $this->db->fetchAssociative('SELECT figures FROM profile WHERE entry_id = ? FOR UPDATE', [$entryId]);
        $figures = false === $row ? [] : Row::json($row, 'figures');
        if (\is_array($figures['fields'] ?? null)) {
            $figures['fields'] = $change($figures['fields']);
            $this->db->executeStatement('UPDATE profile SET figures = ? WHERE entry_id = ?', [Batch::json($figures), $entryId]);
        }
    }
}
