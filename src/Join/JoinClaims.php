<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Account\Account;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Claim;
use Fasti\Register\Claims;
use Fasti\Register\JoinCounts;
use Fasti\Source\SourceStore;

/** Joins that are proposed and wait for a decision. */
final readonly class JoinClaims implements Claims
{
    private const SURE = 0.9;

    public function __construct(private JoinCounts $joins, private SourceStore $sources)
    {
    }

    public function of(Account $account): iterable
    {
        $sources = $this->sources->all();
        foreach ($this->joins->waiting(self::SURE) as $source => [$waiting, $sure]) {
            $in = \count($sources) > 1 ? ' in '.($sources[$source]->name ?? '') : '';
            yield new Claim(
                Amount::of($waiting, 'join').' proposed'.$in,
                0 === $sure ? 'none of them is sure' : ($sure === $waiting ? 'all of them' : "$sure of them").' above '.self::SURE,
                'joins', ['source' => $source], Claim::DECISION,
            );
        }
    }
}
