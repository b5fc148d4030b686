<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Work\Job;
use Fasti\Work\Jobs;
use Fasti\Work\RunJobHandler;

/** The editions there are; asking for one. */
final readonly class Editions
{
    private const LISTED = 200;

    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private EditionJob $kind,
        private RunJobHandler $handler,
        private string $editionsDir,
    ) {
    }

    /** @param list<int> $scope ids of sources; empty for all */
    public function start(string $title, string $note, ?Account $account, array $scope): Edition
    {
        $number = $this->next();

        return $this->of($this->jobs->start($this->kind, 'edition '.$number, [], $account, $this->announced($number, $title, $note, $account, $scope)));
    }

    /**
     * Makes one here and now, without a worker.
     *
     * @param list<int> $scope
     */
    public function now(string $title, array $scope): Edition
    {
        $number = $this->next();

        return $this->of($this->handler->now($this->kind, 'edition '.$number, [], null, $this->announced($number, $title, '', null, $scope)));
    }

    /** @return list<Edition> the latest first */
    public function list(): array
    {
        return $this->entities->getRepository(Edition::class)->findBy([], ['number' => 'DESC'], self::LISTED);
    }

    public function numbered(int $number): ?Edition
    {
        return $this->entities->getRepository(Edition::class)->findOneBy(['number' => $number]);
    }

    public function folder(int $number): string
    {
        return $this->editionsDir.'/'.$number;
    }

    public function zip(int $number): string
    {
        return $this->editionsDir.'/fasti-edition-'.$number.'.zip';
    }

    private function next(): int
    {
        return 1 + ($this->entities->getRepository(Edition::class)->findOneBy([], ['number' => 'DESC'])->number ?? 0);
    }

    /**
     * @param list<int> $scope
     *
     * @return \Closure(Job): void
     */
    private function announced(int $number, string $title, string $note, ?Account $account, array $scope): \Closure
    {
        return function (Job $job) use ($number, $title, $note, $account, $scope): void {
            $edition = new Edition(
                $number,
                '' === trim($title) ? 'The register' : trim($title),
                null === $account ? null : $this->entities->find(Account::class, $account->id()),
                $job,
            );
            $edition->note = trim($note);
            $edition->scope = $scope;
            $this->entities->persist($edition);
        };
    }

    private function of(Job $job): Edition
    {
        return $this->entities->getRepository(Edition::class)->findOneBy(['job' => $job->id()]) ?? throw new \LogicException(
            'An edition\'s job has no edition.',
        );
    }
}
