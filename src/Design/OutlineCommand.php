<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\TakenWords;
use Fasti\Core\Design\Taking;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:outline', 'Prints what there is in a source as an outline: its tables as things, its keys as sentences')]
final readonly class OutlineCommand
{
    public function __construct(private Targets $targets)
    {
    }

    /**
     * @param list<string> $schema
     * @param list<string> $include
     * @param list<string> $exclude
     */
    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target,
        #[Option('Where to write it; without it, it is printed')] string $out = '',
        #[Option('Only this schema; may be repeated')] array $schema = [],
        #[Option('Only names that match; may be repeated')] array $include = [],
        #[Option('Not the names that match; may be repeated')] array $exclude = [],
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        try {
            $catalog = $this->targets->catalog($target, $dialect, new Choice($schema, $include, $exclude));
            [$design, $notes] = Taking::of($catalog, '', new TakenWords($this->targets->title($target)));
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::INVALID;
        }
        $text = OutlineWriter::design($design);
        foreach ($notes as $note) {
            $text .= "\n-- ".str_replace("\n", ' ', $note);
            $errors->writeln(OutputFormatter::escape($note));
        }
        $text = rtrim($text)."\n";
        if ('' === $out) {
            $output->write($text, false, OutputInterface::OUTPUT_RAW);
        } elseif (false === @file_put_contents($out, $text)) {
            $errors->writeln(OutputFormatter::escape(\sprintf('“%s” cannot be written. Check that the folder exists and is yours.', $out)));

            return Command::INVALID;
        }

        return [] === $notes ? Command::SUCCESS : Command::FAILURE;
    }
}
