<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Source\Source;
use Fasti\Survey\Message\RunSurvey;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Style\SymfonyStyle;
use Symfony\Component\Messenger\MessageBusInterface;

/** What the system's scheduler calls, once an hour or so. */
#[AsCommand('fasti:survey-due', 'Starts a survey of each source whose time has come')]
final readonly class SurveyDueCommand
{
    public function __construct(private EntityManagerInterface $entities, private MessageBusInterface $bus)
    {
    }

    public function __invoke(SymfonyStyle $io): int
    {
        $now = new \DateTimeImmutable();
        foreach ($this->entities->getRepository(Source::class)->findBy([], ['name' => 'ASC']) as $source) {
            // A failed try counts as well: a server that is down is not asked again every hour.
            $last = $this->entities->getRepository(Survey::class)->findOneBy(['source' => $source], ['id' => 'DESC']);
            if (!$source->hasChosen() || (null !== $last && !$last->state->over()) || !$source->every->isDue($last?->askedAt, $now)) {
                continue;
            }
            $survey = new Survey($source, null);
            $this->entities->persist($survey);
            $this->entities->flush();
            $this->bus->dispatch(new RunSurvey($survey->id()));
            $io->writeln(\sprintf('Survey of %s asked for.', $source->name));
        }

        return Command::SUCCESS;
    }
}
