<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Register\Claim;
use Fasti\Register\Claims;

/** Models that do not hold, and kept trials whose answer has changed. */
final readonly class ModelClaims implements Claims
{
    public function __construct(private Models $models)
    {
    }

    public function of(Account $account): iterable
    {
        $tallies = $this->models->tallies();
        $faulty = $this->models->faults($account);
        foreach ($this->models->ownedBy($account) as $id => $name) {
            $faults = $faulty[$id] ?? 0;
            if ($faults > 0) {
                yield new Claim(
                    \sprintf('%s: %s in the data', $name, 1 === $faults ? 'a fault' : $faults.' faults'),
                    'questions that they touch are not answered',
                    'model_checks', ['id' => $id], Claim::DOUBT,
                );
            }
            $tally = $tallies[$id] ?? ['kept' => 0, 'answered' => 0, 'changed' => 0];
            if ($tally['changed'] > 0) {
                yield new Claim(
                    \sprintf(
                        '%s: %s',
                        $name,
                        1 === $tally['changed'] ? 'a kept trial has another answer' : $tally['changed'].' kept trials have other answers',
                    ),
                    \sprintf('%d of %d are answered', $tally['answered'], $tally['kept']),
                    'model_trials', ['id' => $id], Claim::NOTICED,
                );
            }
        }
    }
}
