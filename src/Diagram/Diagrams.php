<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Kept\KeptStore;
use Fasti\Register\EntryView;
use Fasti\Register\Standing;

/**
 * The diagrams that people keep.
 *
 * @extends KeptStore<Diagram>
 */
final readonly class Diagrams extends KeptStore
{
    public function __construct(EntityManagerInterface $orm, private Pieces $pieces)
    {
        parent::__construct($orm);
    }

    public function kind(): string
    {
        return 'diagram';
    }

    protected function entity(): string
    {
        return Diagram::class;
    }

    public function route(): string
    {
        return 'diagram';
    }

    public function listRoute(): string
    {
        return 'diagrams';
    }

    public function beginning(): array
    {
        return ['diagram_new', 'around'];
    }

    public function standingIn(array $entries): array
    {
        $names = [];
        $found = $this->pieces->diagramsOf(array_map(static fn (EntryView $entry): int => $entry->id, $entries));
        foreach ([] === $found ? [] : $this->all() as $diagram) {
            $names[$diagram->id()] = $diagram->name;
        }

        return array_filter(array_map(static fn (array $diagrams): array => array_intersect_key($names, array_flip($diagrams)), $found));
    }

    /**
     * @param string $words what their names or purposes have to hold
     *
     * @return list<Diagram> by name
     */
    public function all(string $words = '', bool $retired = false): array
    {
        $query = $this->orm->createQueryBuilder()->select('d', 'o')->from(Diagram::class, 'd')->join('d.owner', 'o')->where('d.thrownAt IS NULL')
            ->orderBy('d.name');
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
        return $this->orm->getRepository(Diagram::class)->count(['thrownAt' => null]);
    }

    public function keep(string $name, string $purpose, Account $owner): Diagram
    {
        $diagram = new Diagram($name, $purpose, $this->owner($owner));
        $this->orm->persist($diagram);
        $this->orm->flush();

        return $diagram;
    }
}
