<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Support\Row;

/** The roles that accounts may have. */
final readonly class Roles
{
    public function __construct(private EntityManagerInterface $entities, private Connection $db)
    {
    }

    /** @return list<Role> those that may least first */
    public function all(): array
    {
        $roles = $this->entities->getRepository(Role::class)->findAll();
        usort($roles, static fn (Role $a, Role $b): int => [\count($a->acts()), $a->name] <=> [\count($b->acts()), $b->name]);

        return $roles;
    }

    public function one(int $id): ?Role
    {
        return $this->entities->find(Role::class, $id);
    }

    public function named(string $name): ?Role
    {
        return $this->entities->getRepository(Role::class)->findOneBy(['name' => $name]);
    }

    /** One that may look after accounts, and the most besides; made where there is none. */
    public function administering(): Role
    {
        foreach (array_reverse($this->all()) as $role) {
            if ($role->may(Act::ADMINISTER)) {
                return $role;
            }
        }
        $role = new Role(Role::ADMINISTRATOR);
        $role->allow(array_keys(Act::WORDS));
        $this->entities->persist($role);

        return $role;
    }

    /** @return array<int, int> id → how many accounts have it, closed ones too */
    public function counts(): array
    {
        $counts = [];
        foreach ($this->db->iterateAssociative('SELECT role_id, COUNT(*) AS n FROM account GROUP BY role_id') as $row) {
            $counts[Row::int($row, 'role_id')] = Row::int($row, 'n');
        }

        return $counts;
    }

    public function save(Role $role): void
    {
        $this->entities->persist($role);
        $this->entities->flush();
    }

    /** @return bool whether it is gone; one that somebody has stays */
    public function remove(Role $role): bool
    {
        return 0 < $this->db->executeStatement(
            'DELETE FROM account_role WHERE id = ? AND NOT EXISTS (SELECT 1 FROM account WHERE role_id = account_role.id)',
            [$role->id()],
        );
    }
}
