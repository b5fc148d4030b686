<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Model\ModelFinding;
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
        foreach ($this->models->all() as $kept) {
            if ($kept->owner->id() !== $account->id()) {
                continue;
            }
            $faults = \count(array_filter($kept->dataFindings(), static fn (ModelFinding $one): bool => Severity::Fault === $one->severity));
            if ($faults > 0) {
                yield new Claim(
                    \sprintf('%s: %s in the data', $kept->name, 1 === $faults ? 'a fault' : $faults.' faults'),
                    'questions that they touch are not answered',
                    'model_checks', ['id' => $kept->id()], Claim::DOUBT,
                );
            }
            $tally = $tallies[$kept->id()] ?? ['kept' => 0, 'answered' => 0, 'changed' => 0];
            if ($tally['changed'] > 0) {
                yield new Claim(
                    \sprintf(
                        '%s: %s',
                        $kept->name,
                        1 === $tally['changed'] ? 'a kept trial has another answer' : $tally['changed'].' kept trials have other answers',
                    ),
                    \sprintf('%d of %d are answered', $tally['answered'], $tally['kept']),
                    'model_trials', ['id' => $kept->id()], Claim::NOTICED,
                );
            }
        }
    }
}
