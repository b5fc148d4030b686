<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Source\SourceStore;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Output\OutputInterface;

/** Surveys do this by themselves; a register of an earlier Fasti has views that nobody has read yet. */
#[AsCommand('fasti:read-views', 'Reads the queries of all views in the register')]
final readonly class ReadViewsCommand
{
    public function __construct(private ReadViews $views, private ReadingStore $store, private SourceStore $sources)
    {
    }

    public function __invoke(OutputInterface $output, #[Option('Only where nothing has been read yet')] bool $missing = false): int
    {
        if ($missing && !$this->store->isEmpty()) {
            return Command::SUCCESS;
        }
        foreach ($this->sources->all() as $id => $source) {
            $this->views->source($id);
            $output->writeln($source->name, OutputInterface::OUTPUT_RAW | OutputInterface::VERBOSITY_VERBOSE);
        }

        return Command::SUCCESS;
    }
}
