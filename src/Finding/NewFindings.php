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
    private const SAID = 3;
    private const MOST = 5000;

    public function __construct(private Findings $findings)
    {
    }

    public function of(Account $account): iterable
    {
        $new = $this->findings->newSince(gmdate('Y-m-d H:i:s', strtotime(self::LATELY) ?: 0), self::MOST);
        if ([] !== $new) {
            $many = array_sum($new) >= self::MOST;
            $said = [];
            foreach (\array_slice($new, 0, self::SAID, true) as $check => $count) {
                $said[] = strtr($check, '-', ' ').($many ? '' : ' '.Amount::decimal((string) $count));
            }
            $more = \count($new) - \count($said);
            yield new Claim(
                ($many ? 'More than '.Amount::of(self::MOST, 'finding') : Amount::of(array_sum($new), 'finding')).' of the last seven days', implode(', ',
                    $said).($more > 0 ? ", and of $more more ".(1 === $more ? 'kind' : 'kinds') : ''),
                'findings', [], Claim::NOTICED,
            );
        }
    }
}
