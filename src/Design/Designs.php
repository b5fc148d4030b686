<?php

declare(strict_types=1);

namespace Fasti\Design;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Design\Design;
use Fasti\Design\Topic\DesignTopic;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Symfony\Component\HttpKernel\Exception\AccessDeniedHttpException;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** The designs that people keep. */
final readonly class Designs
{
    public function __construct(private EntityManagerInterface $orm, private Texts $texts)
    {
    }

    public function one(int $id): ?KeptDesign
    {
        return $this->orm->find(KeptDesign::class, $id);
    }

    public static function isSeenBy(KeptDesign $design, Account $account): bool
    {
        return $design->shared || $design->owner->id() === $account->id();
    }

    /** Who may change it: its owner, and once it is shared whoever describes. */
    public static function isChangedBy(KeptDesign $design, Account $account): bool
    {
        return $account->may(Act::DESCRIBE) && self::isSeenBy($design, $account);
    }

    /** @throws NotFoundHttpException where there is none, or it is somebody else's own */
    public function seen(int $id, Account $account): KeptDesign
    {
        $design = $this->one($id);
        if (null === $design || !self::isSeenBy($design, $account)) {
            throw new NotFoundHttpException('There is no such design, or nobody has shared it with you.');
        }

        return $design;
    }

    /** @throws NotFoundHttpException|AccessDeniedHttpException */
    public function changed(int $id, Account $account): KeptDesign
    {
        $design = $this->seen($id, $account);

        return self::isChangedBy($design, $account) ? $design : throw new AccessDeniedHttpException('This design is not yours to change.');
    }

    /** @return list<KeptDesign> */
    public function all(): array
    {
        /** @var list<KeptDesign> $found */
        $found = $this->orm->createQueryBuilder()->select('d', 'o', 's')->from(KeptDesign::class, 'd')->join('d.owner', 'o')->leftJoin('d.source', 's')
            ->orderBy('d.name')->addOrderBy('d.id')->getQuery()->getResult();

        return $found;
    }

    /**
     * Those that are shared and the person's own, by name, without their outlines.
     *
     * @return list<array{id: int, name: string, purpose: string, shared: bool, broken: bool, owner: string, source: string, changedAt: mixed,
     *     brief: DesignBrief}>
     */
    public function listed(Account $account, string $holding = ''): array
    {
        $like = '%'.addcslashes(mb_strtolower($holding), '%_\\').'%';
        /** @var list<array<string, mixed>> $rows */
        $rows = $this->orm->createQueryBuilder()
            ->select('d.id', 'd.name', 'd.purpose', 'd.shared', 'CASE WHEN d.outline <> d.readable THEN 1 ELSE 0 END AS broken')
            ->addSelect('a.name AS owner', "COALESCE(s.name, '') AS source")
            ->addSelect('d.changedAt', 'd.brief')->from(KeptDesign::class, 'd')->join('d.owner', 'a')->leftJoin('d.source', 's')
            ->where('d.shared = true OR a.id = :account')->andWhere("LOWER(CONCAT(d.name, ' ', d.purpose)) LIKE :like OR LOWER(d.brief) LIKE :like")
            ->setParameter('account', $account->id())->setParameter('like', $like)->orderBy('d.name')->addOrderBy('d.id')->getQuery()->getArrayResult();

        return array_map(static fn (array $row): array => [
            'id' => Row::int($row, 'id'), 'name' => Row::text($row, 'name'), 'purpose' => Row::text($row, 'purpose'), 'shared' => true === $row['shared'],
            'broken' => 1 === Row::int($row, 'broken'), 'owner' => Row::text($row, 'owner'), 'source' => Row::text($row, 'source'),
            'changedAt' => $row['changedAt'], 'brief' => DesignBrief::read($row['brief']),
        ], $rows);
    }

    /** @return array<int, array{name: string, brief: DesignBrief}> shared designs of which some thing was taken from an entry */
    public function takenFromEntries(): array
    {
        $found = [];
        $sql = "SELECT id, name, brief FROM design WHERE shared = 1 AND readable LIKE '%taken from %'";
        foreach ($this->orm->getConnection()->iterateAssociative($sql) as $row) {
            $found[Row::int($row, 'id')] = ['name' => Row::text($row, 'name'), 'brief' => DesignBrief::read(json_decode(Row::text($row, 'brief'), true))];
        }

        return $found;
    }

    /** @return list<KeptDesign> */
    public function shared(): array
    {
        return array_values(array_filter($this->all(), static fn (KeptDesign $design): bool => $design->shared));
    }

    /** @throws BadText where the outline is longer than one may be */
    public function make(Account $account, string $outline, ?Source $source = null): KeptDesign
    {
        $design = new KeptDesign(
            '',
            $this->orm->find(Account::class, $account->id()) ?? $account,
            null === $source ? null : $this->orm->find(Source::class, $source->id()),
        );
        $this->orm->persist($design);
        $this->orm->flush();
        $this->texts->save($account, DesignTopic::NAME, $design->id(), DesignProperties::OUTLINE, '', $outline, 'made');
        $this->orm->refresh($design);

        return $design;
    }

    public function remove(KeptDesign $design): void
    {
        $this->orm->remove($design);
        $this->orm->flush();
    }

    public function save(): void
    {
        $this->orm->flush();
    }

    public function fresh(KeptDesign $design): KeptDesign
    {
        $this->orm->refresh($design);

        return $design;
    }

    /** @return array{things: int, attributes: int, joins: int, asked: int} */
    public static function tallyOf(Design $design): array
    {
        $attributes = 0;
        foreach ([...$design->things, ...$design->joins] as $one) {
            $attributes += \count($one->attributes);
        }

        return [
            'things' => \count($design->things), 'attributes' => $attributes, 'joins' => \count($design->joins),
            'asked' => \count(array_filter($design->questions, static fn ($question): bool => '' === $question->answer)),
        ];
    }

    /** @return array{string, string} name and purpose, as an outline says them */
    public static function called(Design $design): array
    {
        return [mb_substr('' === trim($design->name) ? 'Design without a name' : $design->name, 0, 120), mb_substr($design->purpose, 0, 400)];
    }
}
