<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Fasti\Account\Account;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Claim;
use Fasti\Register\Claims;

/** Code lists in which something has no meaning yet. */
final readonly class CodeClaims implements Claims
{
    public function __construct(private CodeLists $lists)
    {
    }

    public function of(Account $account): iterable
    {
        $open = array_values(array_filter($this->lists->all(), static fn (ListedCodes $list): bool => $list->unsaid > 0));
        if ([] !== $open) {
            $one = 1 === \count($open);
            yield new Claim(
                $one ? \sprintf('Code list “%s” has codes without a meaning', $open[0]->name) : Amount::of(\count($open),
                    'code list').' have codes without a meaning',
                Amount::of((int) array_sum(array_column($open, 'unsaid')), 'code').' to say', $one ? 'code_list' : 'code_lists',
                $one ? ['id' => $open[0]->id, 'which' => 'unsaid'] : [], Claim::GAP,
            );
        }
    }
}
