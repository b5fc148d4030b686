<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Account\Account;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Claim;
use Fasti\Register\Claims;
use Fasti\Text\History;

/** The last edition has been overtaken by what was written since. */
final readonly class OldEdition implements Claims
{
    private const OLD = 7;

    public function __construct(private Editions $editions, private History $history)
    {
    }

    public function of(Account $account): iterable
    {
        foreach ($this->editions->list() as $edition) {
            if (null === $edition->madeAt) {
                continue;
            }
            $days = (int) $edition->madeAt->diff(new \DateTimeImmutable())->format('%a');
            $texts = $this->history->countSince($edition->madeAt->format('Y-m-d H:i:s'));
            if ($days >= self::OLD && $texts > 0) {
                yield new Claim(
                    \sprintf(
                        'Edition %d is %s old',
                        $edition->number,
                        Amount::of($days, 'day'),
                    ), Amount::of($texts, 'change').' since', 'editions', [], Claim::PUBLISH,
                );
            }

            return;
        }
    }
}
