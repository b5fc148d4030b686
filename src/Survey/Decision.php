<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Drift\AcceptDrift;
use Fasti\Support\Row;

/** Takes a steward's decision about what a survey found, whole or not at all. */
final readonly class Decision
{
    public function __construct(private EntityManagerInterface $entities, private AcceptDrift $accept)
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
        $data = json_decode($survey->catalogJson() ?? '[]', true);
        $catalog = OpenForm::read(Catalog::class, \is_array($data) ? $data : []);
        $this->entities->wrapInTransaction(function () use ($survey, $catalog, $answers, $apart, $account): void {
            $db = $this->entities->getConnection();
            $row = $db->fetchAssociative('SELECT decided_at FROM survey WHERE id = ? FOR UPDATE', [$survey->id()]);
            if (false === $row || null !== Row::maybeText($row, 'decided_at')) {
                throw new \UnexpectedValueException('Somebody else has just decided this.');
            }
            $items = $survey->drift ?? [];
            $this->accept->accept($survey->source->id(), $catalog, $survey->source->choice(), $items, $answers, $apart, $account);
            foreach ($items as $i => $item) {
                $items[$i]['decided'] = $answers[$i] ?? 'no';
            }
            $survey->drift = $items;
            $survey->decidedAt = new \DateTimeImmutable();
            $survey->decidedBy = $this->entities->find(Account::class, $account->id());
        });
    }
}
