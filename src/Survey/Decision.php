<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Drift\DriftItem;
use Fasti\Drift\AcceptDrift;
use Fasti\Drift\DriftItems;

/** Takes a steward's decision about what a survey found, whole or not at all. */
final readonly class Decision
{
    public function __construct(private EntityManagerInterface $entities, private Surveys $surveys, private AcceptDrift $accept)
    {
    }

    /**
     * @param array<int, string>       $answers number of the item → yes, no or apart
     * @param array<int, list<string>> $apart   number of the item → columns whose rename was refused
     *
     * @throws \UnexpectedValueException when somebody else has decided meanwhile
     */
    public function take(Survey $survey, array $answers, array $apart, Account $account): void
    {
        $catalog = $survey->catalog();
        $this->entities->wrapInTransaction(function () use ($survey, $catalog, $answers, $apart, $account): void {
            if (!$this->surveys->mayDecide($survey)) {
                throw new \UnexpectedValueException('Somebody else has just decided this.');
            }
            $items = DriftItems::read($survey->drift ?? []);
            $this->accept->accept($survey->source->id(), $catalog, $survey->source->choice(), $items, $answers, $apart, $account);
            $decided = array_map(static fn (DriftItem $item, int $i): DriftItem => $item->decided($answers[$i] ?? DriftItem::NO), $items, array_keys($items));
            $survey->drift = DriftItems::kept($decided);
            $survey->decidedAt = new \DateTimeImmutable();
            $survey->decidedBy = $this->entities->find(Account::class, $account->id());
        });
    }
}
