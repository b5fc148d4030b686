<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelFinding;
use Fasti\Kept\NotThere;
use Fasti\Kept\NotYours;

/** What all pages of a model need. */
final readonly class ModelPages
{
    public function __construct(private Models $models, private Grounds $grounds)
    {
    }

    /** @throws NotThere */
    public function seen(int $id, Account $account): KeptModel
    {
        return $this->models->seen($id, $account);
    }

    /** @throws NotThere|NotYours */
    public function changed(int $id, Account $account): KeptModel
    {
        return $this->models->changed($id, $account);
    }

    /** @return list<ModelFinding> of structure and of data, the gravest first */
    public function findings(KeptModel $kept): array
    {
        $all = [...(new ModelChecks($this->grounds->of($kept), $this->grounds->known($kept)))->all(), ...$kept->dataFindings()];
        usort($all, static fn (ModelFinding $a, ModelFinding $b): int => $b->severity->rank() <=> $a->severity->rank());

        return $all;
    }

    /** @return array<string, mixed> for the head of every page of the model */
    public function head(KeptModel $kept, Account $account, string $here): array
    {
        $now = new \DateTimeImmutable();
        $all = $this->findings($kept);
        $findings = array_values(array_filter($all, static fn (ModelFinding $one): bool => null === $kept->acceptance($one, $now)));
        $accepted = array_values(array_filter($all, static fn (ModelFinding $one): bool => null !== $kept->acceptance($one, $now)));

        return [
            'accepted' => $accepted, 'faults' => self::faults($findings),
            'kept' => $kept, 'here' => $here, 'through' => $kept->connection()->label, 'mayChange' => $kept->isChangedBy($account),
            'own' => $kept->isOf($account),
            'findings' => $findings, 'noted' => new Noted($findings), 'pressing' => \count(array_filter(
                $findings,
                static fn (ModelFinding $one): bool => $one->severity->rank() > 0,
            )),
            'trialCount' => \count($this->models->trials($kept)),
        ];
    }

    /** @param list<ModelFinding> $findings */
    private static function faults(array $findings): int
    {
        return \count(array_filter($findings, static fn (ModelFinding $one): bool => Severity::Fault === $one->severity));
    }

    /** Faults that nobody has accepted. */
    public function openFaults(KeptModel $kept): int
    {
        $now = new \DateTimeImmutable();

        return self::faults(array_values(array_filter(
            $this->findings($kept),
            static fn (ModelFinding $one): bool => null === $kept->acceptance($one, $now),
        )));
    }
}
