<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Source\Source;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Style\SymfonyStyle;

/** What the system's scheduler calls, once an hour or so. */
#[AsCommand('fasti:survey-due', 'Starts a survey of each source whose time has come')]
final readonly class SurveyDueCommand
{
    public function __construct(private EntityManagerInterface $entities, private Surveys $surveys)
    {
    }

    public function __invoke(SymfonyStyle $io): int
    {
        $now = new \DateTimeImmutable();
        foreach ($this->entities->getRepository(Source::class)->findBy([], ['name' => 'ASC']) as $source) {
            // A failed try counts as well: a server that is down is not asked again every hour.
            $last = $this->surveys->last($source);
            if (!$source->hasChosen() || (null !== $last && !$last->state()->over()) || !$source->cadence->isDue($last?->job->askedAt, $now)) {
                continue;
            }
            $this->surveys->start($source, null);
            $io->writeln(\sprintf('Survey of %s asked for.', $source->name));
        }

        return Command::SUCCESS;
    }
}
