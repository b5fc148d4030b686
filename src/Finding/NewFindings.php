<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Account\Account;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Claim;
use Fasti\Register\Claims;

/** What was noticed lately. */
final readonly class NewFindings implements Claims
{
    private const LATELY = '-7 days';
    private const SAID = 2;

    public function __construct(private Findings $findings)
    {
    }

    public function of(Account $account): iterable
    {
        $new = $this->findings->newSince(gmdate('Y-m-d H:i:s', strtotime(self::LATELY) ?: 0));
        if ([] !== $new) {
            $titles = array_map(static fn (array $one): string => rtrim($one['title'], '.'), \array_slice($new, 0, self::SAID));
            $more = \count($new) - \count($titles);
            yield new Claim(
                Amount::of((int) array_sum(array_column($new, 'count')), 'finding').' of the last seven days',
                implode('; ', $titles).($more > 0 ? "; and $more more" : ''), 'findings', [], Claim::NOTICED,
            );
        }
    }
}
