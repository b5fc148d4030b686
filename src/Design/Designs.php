<?php

declare(strict_types=1);

namespace Fasti\Design;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Design\Design;
use Fasti\Design\Topic\DesignTopic;
use Fasti\Kept\KeptNamed;
use Fasti\Kept\KeptStore;
use Fasti\Kept\Within;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Text\BadText;
use Fasti\Text\Texts;

/**
 * The designs that people keep.
 *
 * @extends KeptStore<KeptDesign>
 */
final readonly class Designs extends KeptStore
{
    public function __construct(EntityManagerInterface $orm, private Texts $texts)
    {
        parent::__construct($orm);
    }

    public function kind(): string
    {
        return 'design';
    }

    protected function entity(): string
    {
        return KeptDesign::class;
    }

    public function route(): string
    {
        return 'design_read';
    }

    public function listRoute(): string
    {
        return 'designs';
    }

    public function beginning(): array
    {
        return ['design_new', 'entries'];
    }

    public function standingIn(array $entries): array
    {
        $named = $found = [];
        foreach ($entries as $entry) {
            $named[mb_strtolower($entry->sourceName.'.'.$entry->name)][] = $entry->id;
        }
        foreach ($this->takenFromEntries() as $id => $kept) {
            foreach ($kept['brief']->things as [, $from]) {
                foreach ('' === $from ? [] : ($named[mb_strtolower($from)] ?? []) as $entry) {
                    $found[$entry][$id] = $kept['name'];
                }
            }
        }

        return $found;
    }

    public function within(Account $account, string $words): iterable
    {
        foreach ($this->listed($account, $words) as $kept) {
            foreach ($kept['brief']->things as [$thing]) {
                if (str_contains(KeptNamed::folded($thing), $words)) {
                    yield new Within('Thing: '.$thing.' of '.$kept['name'], $kept['id'], Reading::anchor($thing));
                }
            }
        }
    }

    /** @return list<KeptDesign> */
    public function all(): array
    {
        /** @var list<KeptDesign> $found */
        $found = $this->orm->createQueryBuilder()->select('d', 'o', 's')->from(KeptDesign::class, 'd')->join('d.owner', 'o')->leftJoin('d.source', 's')
            ->where('d.thrownAt IS NULL')->orderBy('d.name')->addOrderBy('d.id')->getQuery()->getResult();

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
        $rows = $this->visible($account)->leftJoin('k.source', 's')
            ->select('k.id', 'k.name', 'k.purpose', 'k.shared', 'CASE WHEN k.outline <> k.readable THEN 1 ELSE 0 END AS broken')
            ->addSelect('a.name AS owner', "COALESCE(s.name, '') AS source", 'k.changedAt', 'k.brief')
            ->andWhere("LOWER(CONCAT(k.name, ' ', k.purpose)) LIKE :like OR LOWER(k.brief) LIKE :like")->setParameter('like', $like)
            ->getQuery()->getArrayResult();

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
        $sql = "SELECT id, name, brief FROM design WHERE shared = 1 AND thrown_at IS NULL AND readable LIKE '%taken from %'";
        foreach ($this->orm->getConnection()->iterateAssociative($sql) as $row) {
            $found[Row::int($row, 'id')] = ['name' => Row::text($row, 'name'), 'brief' => DesignBrief::read(json_decode(Row::text($row, 'brief'), true))];
        }

        return $found;
    }

    /** @throws BadText where the outline is longer than one may be */
    public function make(Account $account, string $outline, ?Source $source = null): KeptDesign
    {
        $design = new KeptDesign(
            '',
            $this->owner($account),
            null === $source ? null : $this->orm->find(Source::class, $source->id()),
        );
        $this->orm->persist($design);
        $this->orm->flush();
        $this->texts->save($account, DesignTopic::NAME, $design->id(), DesignProperties::OUTLINE, '', $outline, 'made');
        $this->orm->refresh($design);

        return $design;
    }

    public static function tallyOf(Design $design): DesignTally
    {
        $attributes = 0;
        foreach ([...$design->things, ...$design->joins] as $one) {
            $attributes += \count($one->attributes);
        }
        $asked = array_filter($design->questions, static fn ($question): bool => '' === $question->answer);

        return new DesignTally(\count($design->things), $attributes, \count($design->joins), \count($asked));
    }

    /** @return array{string, string} name and purpose, as an outline says them */
    public static function called(Design $design): array
    {
        return [mb_substr('' === trim($design->name) ? 'Design without a name' : $design->name, 0, 120), mb_substr($design->purpose, 0, 400)];
    }
}
