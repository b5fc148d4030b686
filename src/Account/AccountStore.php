<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Support\Row;

/** What other rooms may know of accounts. */
final readonly class AccountStore
{
    public function __construct(private Connection $db)
    {
    }

    /** Nobody has an account, so that nobody can sign in to make one. */
    public function isEmpty(): bool
    {
        return false === $this->db->fetchOne('SELECT id FROM account LIMIT 1');
    }

    /**
     * @param list<int> $ids
     *
     * @return array<int, string> id → what people are called; closed accounts keep their names
     */
    public function names(array $ids): array
    {
        $names = [];
        if ([] !== $ids) {
            foreach ($this->db->iterateAssociative(
                'SELECT id, name FROM account WHERE id IN (?)',
                [array_values(array_unique($ids))],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $names[Row::int($row, 'id')] = Row::text($row, 'name');
            }
        }

        return $names;
    }

    /** @return array<int, string> who may sign in: id → name */
    public function open(): array
    {
        $names = [];
        foreach ($this->db->iterateAssociative('SELECT id, name FROM account WHERE active = 1 ORDER BY name, id') as $row) {
            $names[Row::int($row, 'id')] = Row::text($row, 'name');
        }

        return $names;
    }
}
