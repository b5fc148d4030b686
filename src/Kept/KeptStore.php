<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Doctrine\ORM\EntityManagerInterface;
use Doctrine\ORM\QueryBuilder;
use Fasti\Account\Account;
use Fasti\Register\EntryView;
use Fasti\Support\Row;
use Fasti\Text\BadText;
use Fasti\Text\Property;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/**
 * The things of one kind that people keep: who sees and changes them, names, sharing, throwing away and taking back. A kind adds what is its
 * own; the search, the page of an entry and the list of what was thrown away find it by tag.
 *
 * @template T of Kept
 */
#[AutoconfigureTag]
abstract readonly class KeptStore
{
    public function __construct(protected EntityManagerInterface $orm)
    {
    }

    /** What one is called: its topic, and what people are told. */
    abstract public function kind(): string;

    /** @return class-string<T> */
    abstract protected function entity(): string;

    /** @return string the route of its page for readers, which takes an id */
    abstract public function route(): string;

    /** @return string the route of the list of all */
    abstract public function listRoute(): string;

    /** @return array{string, string}|null the route by which one begins from an entry, and its parameter; null where entries do not stand in such things */
    public function beginning(): ?array
    {
        return null;
    }

    /**
     * The things that are shared in which entries stand.
     *
     * @param list<EntryView> $entries
     *
     * @return array<int, array<int, string>> id of the entry → id → name
     */
    public function standingIn(array $entries): array
    {
        return [];
    }

    /**
     * What the search finds within things that a person sees, besides their names.
     *
     * @param string $words folded
     *
     * @return iterable<Within>
     */
    public function within(Account $account, string $words): iterable
    {
        return [];
    }

    /** @return T|null */
    public function one(int $id): ?Kept
    {
        $kept = $this->orm->find($this->entity(), $id);

        return null === $kept?->thrownAt ? $kept : null;
    }

    /** @return T|null */
    public function named(string $name): ?Kept
    {
        return $this->orm->getRepository($this->entity())->findOneBy(['name' => $name, 'thrownAt' => null]);
    }

    /**
     * @return T
     *
     * @throws NotThere
     */
    public function seen(int $id, Account $account): Kept
    {
        $kept = $this->one($id);
        if (null === $kept || !$kept->isSeenBy($account)) {
            throw new NotThere(\sprintf('There is no such %s, or nobody has shared it with you.', $this->kind()));
        }

        return $kept;
    }

    /**
     * @return T
     *
     * @throws NotThere|NotYours
     */
    public function changed(int $id, Account $account): Kept
    {
        $kept = $this->seen($id, $account);

        return $kept->isChangedBy($account) ? $kept : throw new NotYours(\sprintf('This %s is not yours to change.', $this->kind()));
    }

    /** Those that a person sees, by name: `k` with its owner as `a`. */
    protected function visible(Account $account): QueryBuilder
    {
        return $this->orm->createQueryBuilder()->from($this->entity(), 'k')->join('k.owner', 'a')
            ->where('k.thrownAt IS NULL AND (k.shared = true OR a.id = :account)')->setParameter('account', $account->id())
            ->orderBy('k.name')->addOrderBy('k.id');
    }

    /** @return array<int, array{name: string, purpose: string}> by id */
    public function names(Account $account): array
    {
        $names = [];
        /** @var list<array<string, mixed>> $rows */
        $rows = $this->visible($account)->select('k.id', 'k.name', 'k.purpose')->getQuery()->getArrayResult();
        foreach ($rows as $row) {
            $names[Row::int($row, 'id')] = ['name' => Row::text($row, 'name'), 'purpose' => Row::text($row, 'purpose')];
        }

        return $names;
    }

    /** @return list<T> by name */
    public function shared(): array
    {
        /** @var list<T> $found */
        $found = $this->orm->createQueryBuilder()->select('k', 'o')->from($this->entity(), 'k')->join('k.owner', 'o')
            ->where('k.shared = true AND k.thrownAt IS NULL')->orderBy('k.name')->addOrderBy('k.id')->getQuery()->getResult();

        return $found;
    }

    /** @return list<T> what a person threw away, the latest first */
    public function thrown(Account $account): array
    {
        /** @var list<T> $found */
        $found = $this->orm->createQueryBuilder()->select('k')->from($this->entity(), 'k')->where('k.thrownAt IS NOT NULL AND k.owner = :account')
            ->setParameter('account', $account->id())->orderBy('k.thrownAt', 'DESC')->addOrderBy('k.id', 'DESC')->getQuery()->getResult();

        return $found;
    }

    /**
     * @param T $kept
     *
     * @throws NotYours
     */
    public function throwAway(Kept $kept, Account $account): void
    {
        if (!$kept->isOf($account)) {
            throw new NotYours(\sprintf('Only its owner may throw a %s away.', $this->kind()));
        }
        $kept->thrownAt = new \DateTimeImmutable();
        $this->orm->flush();
    }

    /**
     * @return T
     *
     * @throws NotThere where the person threw no such thing away
     */
    public function takeBack(int $id, Account $account): Kept
    {
        $kept = $this->orm->find($this->entity(), $id);
        if (null === $kept?->thrownAt || !$kept->isOf($account)) {
            throw new NotThere(\sprintf('You threw no such %s away.', $this->kind()));
        }
        $kept->thrownAt = null;
        // Its name may have gone to another meanwhile.
        for ($n = 2, $name = $kept->name; null !== $this->named($kept->name); ++$n) {
            $kept->name = mb_substr($name, 0, Kept::NAME - 10).' ('.$n.')';
        }
        $this->orm->flush();

        return $kept;
    }

    /**
     * A name under which nothing is kept yet.
     *
     * @throws BadText
     */
    public function free(string $name, int $but = 0): string
    {
        $name = trim($name);
        if ('' === $name || mb_strlen($name) > Kept::NAME) {
            throw new BadText('' === $name ? \sprintf('A %s needs a name, under which it is found again.', $this->kind())
                : \sprintf('A name has %d characters at most.', Kept::NAME));
        }
        $other = $this->named($name);
        if (null !== $other && $other->id() !== $but) {
            throw new BadText(\sprintf('There is a %s “%s” already. Choose another name.', $this->kind(), $name));
        }

        return $name;
    }

    /** @throws BadText */
    public function purpose(string $purpose): string
    {
        $purpose = trim($purpose);

        return mb_strlen($purpose) <= Kept::PURPOSE ? $purpose : throw new BadText(\sprintf('The purpose has %d characters at most.', Kept::PURPOSE));
    }

    /** @return iterable<Property> its name and its purpose, as people write them */
    public function properties(string $blank): iterable
    {
        $kind = $this->kind();
        yield new Property($kind, 'name', "name of the $kind", Kept::NAME, 'name', check: function (string $value, int $id): void {
            $this->free($value, $id);
        });
        yield new Property($kind, 'purpose', most: Kept::PURPOSE, column: 'purpose', blank: $blank);
    }

    /**
     * Lets one after the other change a thing, each as the one before left it.
     *
     * @template R
     *
     * @param T                $kept
     * @param \Closure(T): R $change
     *
     * @return R
     *
     * @throws BadText where somebody else is at it for too long
     */
    public function locked(Kept $kept, \Closure $change): mixed
    {
        $db = $this->orm->getConnection();
        $lock = \sprintf('fasti.%s.%d', $this->kind(), $kept->id());
        // A lock by name and no transaction around it all: each part within is made again by itself where the database takes it back.
        if (1 !== Row::int(['got' => $db->fetchOne('SELECT GET_LOCK(?, 20)', [$lock])], 'got')) {
            throw new BadText(\sprintf('Somebody else is changing this %s for very long. Make your change again in a moment.', $this->kind()));
        }
        try {
            return $change($this->fresh($kept));
        } finally {
            $db->fetchOne('SELECT RELEASE_LOCK(?)', [$lock]);
        }
    }

    /**
     * Anew from the database, after others may have changed it.
     *
     * @param T $kept
     *
     * @return T
     */
    public function fresh(Kept $kept): Kept
    {
        $this->orm->refresh($kept);

        return $kept;
    }

    public function save(): void
    {
        $this->orm->flush();
    }

    /** The account as this manager of entities knows it. */
    protected function owner(Account $account): Account
    {
        return $this->orm->find(Account::class, $account->id()) ?? $account;
    }
}
