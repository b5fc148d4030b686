<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Register\Standing;

/** The diagrams that people keep. */
final readonly class Diagrams
{
    public function __construct(private EntityManagerInterface $orm)
    {
    }

    public function one(int $id): ?Diagram
    {
        return $this->orm->find(Diagram::class, $id);
    }

    public function named(string $name): ?Diagram
    {
        return $this->orm->getRepository(Diagram::class)->findOneBy(['name' => $name]);
    }

    /**
     * @param string $words what their names or purposes have to hold
     *
     * @return list<Diagram> by name
     */
    public function all(string $words = '', bool $retired = false): array
    {
        $query = $this->orm->createQueryBuilder()->select('d', 'o')->from(Diagram::class, 'd')->join('d.owner', 'o')->orderBy('d.name');
        if (!$retired) {
            $query->andWhere('d.standing <> :retired')->setParameter('retired', Standing::Retired->value);
        }
        if ('' !== $words) {
            $query->andWhere('d.name LIKE :words OR d.purpose LIKE :words')->setParameter('words', '%'.addcslashes($words, '%_\\').'%');
        }
        /** @var list<Diagram> $found */
        $found = $query->getQuery()->getResult();

        return $found;
    }

    public function count(): int
    {
        return $this->orm->getRepository(Diagram::class)->count([]);
    }

    public function keep(string $name, string $purpose, Account $owner): Diagram
    {
        $diagram = new Diagram($name, $purpose, $this->orm->find(Account::class, $owner->id()) ?? $owner);
        $this->orm->persist($diagram);
        $this->orm->flush();

        return $diagram;
    }

    /** Anew from the database, after others may have changed it. */
    public function fresh(Diagram $diagram): Diagram
    {
        $this->orm->refresh($diagram);

        return $diagram;
    }

    public function save(): void
    {
        $this->orm->flush();
    }
}
