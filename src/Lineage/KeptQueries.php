<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Account\Account;
use Fasti\Kept\KeptStore;
use Fasti\Source\Source;

/**
 * Queries that are no views and are kept under a name.
 *
 * @extends KeptStore<KeptQuery>
 */
final readonly class KeptQueries extends KeptStore
{
    public function kind(): string
    {
        return 'query';
    }

    protected function entity(): string
    {
        return KeptQuery::class;
    }

    public function route(): string
    {
        return 'query';
    }

    public function listRoute(): string
    {
        return 'queries';
    }

    public function count(): int
    {
        return $this->orm->getRepository(KeptQuery::class)->count(['thrownAt' => null]);
    }

    /** @return list<KeptQuery> the newest first */
    public function all(): array
    {
        return $this->orm->getRepository(KeptQuery::class)->findBy(['thrownAt' => null], ['id' => 'DESC']);
    }

    public function keep(Source $source, string $name, string $text, Account $account): KeptQuery
    {
        $query = new KeptQuery($source, $name, $text, $account);
        $this->orm->persist($query);
        $this->orm->flush();

        return $query;
    }
}
