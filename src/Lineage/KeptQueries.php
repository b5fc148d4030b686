<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Source\Source;

/** Queries that are no views and are kept under a name. */
final readonly class KeptQueries
{
    public function __construct(private EntityManagerInterface $orm)
    {
    }

    public function count(): int
    {
        return $this->orm->getRepository(KeptQuery::class)->count([]);
    }

    /** @return list<KeptQuery> the newest first */
    public function all(): array
    {
        return $this->orm->getRepository(KeptQuery::class)->findBy([], ['id' => 'DESC']);
    }

    public function one(int $id): ?KeptQuery
    {
        return $this->orm->find(KeptQuery::class, $id);
    }

    public function keep(Source $source, string $name, string $text, Account $account): KeptQuery
    {
        $query = new KeptQuery($source, $name, $text, $account);
        $this->orm->persist($query);
        $this->orm->flush();

        return $query;
    }
}
