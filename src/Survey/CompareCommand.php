<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\RoutineDrift;
use Fasti\Core\Drift\TableDrift;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:compare', 'Compares the structure of two targets, and says what is new, gone, changed and renamed')]
final readonly class CompareCommand
{
    public function __construct(private Targets $targets)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument('The older one: a connection URL, a file or folder, or a catalog as JSON')] string $before,
        #[Argument('The newer one')] string $after,
        #[Option('text or json')] string $format = 'text',
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if (!\in_array($format, ['text', 'json'], true)) {
            $errors->writeln('The format is text or json.');

            return Command::INVALID;
        }
        try {
            $older = $this->targets->catalog($before, $dialect);
            $newer = $this->targets->catalog($after, $dialect);
            $drift = Compare::catalogs($older, $newer);
            $routines = Compare::routines($older, $newer);
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::INVALID;
        }
        if ('json' === $format) {
            $output->writeln(
                json_encode(
                    array_map(static fn (TableDrift|RoutineDrift $item): array => $item->toArray(), [...$drift, ...$routines]),
                    \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT,
                ),
                OutputInterface::OUTPUT_RAW,
            );
        } else {
            foreach (self::text($drift, $routines) as $line) {
                $output->writeln($line, OutputInterface::OUTPUT_RAW);
            }
        }

        return [] === $drift && [] === $routines ? Command::SUCCESS : Command::FAILURE;
    }

    /**
     * @param list<TableDrift>   $drift
     * @param list<RoutineDrift> $routines
     *
     * @return iterable<string>
     */
    private static function text(array $drift, array $routines): iterable
    {
        if ([] === $drift && [] === $routines) {
            yield 'Nothing has changed.';
        }
        foreach ($drift as $item) {
            $table = $item->table();
            yield \sprintf(
                '%-8s %s%s',
                $item->change->value,
                $table->place(),
                Fate::Renamed === $item->change && null !== $item->before ? \sprintf(', was %s: %s', $item->before->place(), $item->reason) : '',
            );
            foreach ($item->words as $words) {
                yield '           '.$words;
            }
            foreach ($item->columns as $column) {
                yield \sprintf(
                    '           %-8s %s%s%s',
                    $column->change->value,
                    $column->name(),
                    Fate::Renamed === $column->change && null !== $column->before ? \sprintf(', was %s: %s', $column->before->name, $column->reason) : '',
                    [] === $column->words ? '' : ': '.implode('; ', $column->words),
                );
            }
        }
        foreach ($routines as $routine) {
            $of = $routine->routine();
            $words = [] === $routine->words ? '' : ': '.implode('; ', $routine->words);
            yield \sprintf('%-8s %s %s%s', $routine->change->value, $of->kind, ('' === $of->schema ? '' : $of->schema.'.').$of->name, $words);
        }
    }
}
