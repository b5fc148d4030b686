<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Account\Account;
use Fasti\Core\Join\Verbs;
use Fasti\Register\JoinKind;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Text\BadText;
use Fasti\Text\Texts;

/** What stewards decide about proposals. A decision is a text like any other: with a history, and to be taken back. */
final readonly class Deciding
{
    public function __construct(private Texts $texts, private Joins $joins)
    {
    }

    /**
     * Takes a proposal, with the verbs that are composed for it where nobody has written any; or dismisses it.
     *
     * @throws BadText
     */
    public function decide(Account $account, int $id, string $base, string $decision): Decided
    {
        $join = $this->joins->one($id) ?? throw new BadText('This join is not in the register.');
        $sitting = 'decide-'.bin2hex(random_bytes(8));
        $done = $this->texts->save($account, 'join', $id, JoinProperties::DECISION, $base, $decision, $sitting);
        $changes = null === $done->change ? [] : [$done->change];
        if ($done->saved && null !== $done->change && JoinKind::Documented->value === $decision && '' === $join->verb && '' === $join->verbBack) {
            foreach (array_combine(['verb', 'verbBack'], self::verbs($join)) as $name => $verb) {
                $said = '' === $verb ? null : $this->texts->save($account, 'join', $id, $name, '', $verb, $sitting);
                if (null !== $said?->change) {
                    $changes[] = $said->change;
                }
            }
        }

        return new Decided($done->saved, $done->by, $done->value, $changes);
    }

    /**
     * Takes those of some that still wait.
     *
     * @param list<int> $some joins
     *
     * @return array{taken: list<int>, changes: list<int>}
     */
    public function takeAll(Account $account, array $some): array
    {
        $taken = $changes = [];
        foreach ($this->joins->many($some) as $join) {
            if (JoinKind::Proposed === $join->kind) {
                $done = $this->decide($account, $join->id, '', JoinKind::Documented->value);
                if ($done->saved && [] !== $done->changes) {
                    $taken[] = $join->id;
                    array_push($changes, ...$done->changes);
                }
            }
        }

        return ['taken' => $taken, 'changes' => $changes];
    }

    /**
     * @param list<int> $changes
     *
     * @throws BadText
     */
    public function takeBack(Account $account, array $changes): void
    {
        foreach (array_reverse($changes) as $change) {
            $this->texts->takeBack($account, $change);
        }
    }

    /** @return array{string, string} verbs that names suggest, '' where they say nothing */
    public static function verbs(JoinView $join): array
    {
        return Verbs::of($join->fromName, array_column($join->pairs, 0), $join->toName);
    }
}
