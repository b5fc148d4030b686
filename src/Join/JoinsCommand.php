<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;
use Fasti\Source\Sources;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:joins', 'Proposes the joins that nothing declares, with what speaks for each, storing nothing')]
final readonly class JoinsCommand
{
    /** Seconds that one statement may take. */
    private const STATEMENT = 60;

    public function __construct(private Sources $sources, private Targets $targets)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target,
        #[Option('Leave declared foreign keys out of what is known, so that the proposals can be held against them')] bool $ignoreDeclared = false,
        #[Option('Go by names, types and keys only')] bool $noData = false,
        #[Option('text or json')] string $format = 'text',
        #[Option(Targets::DIALECTS)] string $dialect = '',
        #[Option('Seconds that looking at the data may take')] int $budget = 300,
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if (!\in_array($format, ['text', 'json'], true)) {
            $errors->writeln('The format is text or json.');

            return Command::INVALID;
        }
        $notes = [];
        try {
            $catalog = Targets::kept($target);
            $rows = null;
            if (null === $catalog) {
                $where = $this->targets->target($target, $dialect);
                $catalog = $this->sources->reader($where)->read(new Choice(), new SilentProgress());
                $rows = $noData ? null : $this->sources->rows($where, self::STATEMENT);
            }
            if (null === $rows && !$noData) {
                $notes[] = 'There is no data to ask here: the proposals go by names, types and keys only.';
            }
            if ($ignoreDeclared) {
                $catalog = $catalog->with(tables: array_map(static fn ($table) => $table->with(foreignKeys: []), $catalog->tables));
            }
            $proposing = new Proposals((float) max(1, $budget));
            $proposals = $proposing->of($catalog, $rows);
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::FAILURE;
        }
        if ('json' === $format) {
            $output->writeln(json_encode(
                ['proposals' => array_map(static fn (Proposal $one): array => $one->toArray(), $proposals)],
                \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT
                    | \JSON_PRESERVE_ZERO_FRACTION,
            ), OutputInterface::OUTPUT_RAW);
        } else {
            foreach (self::text($proposals) as $line) {
                $output->writeln($line, OutputInterface::OUTPUT_RAW);
            }
        }
        foreach ([...$notes, ...$catalog->notes, ...$proposing->notes] as $note) {
            $errors->writeln(OutputFormatter::escape($note));
        }

        return Command::SUCCESS;
    }

    /**
     * @param list<Proposal> $proposals
     *
     * @return iterable<string>
     */
    private static function text(array $proposals): iterable
    {
        foreach ($proposals as $one) {
            $end = static fn (Place $place, array $columns): string => $place.' ('.implode(', ', array_filter($columns, is_string(...))).')';
            $condition = $one->condition();
            yield \sprintf(
                '%.2f  %s → %s%s',
                $one->confidence,
                $end($one->from, $one->columns),
                $end($one->to, $one->toColumns),
                null === $condition ? '' : '  where '.$condition,
            );
            foreach ($one->evidence as $evidence) {
                yield '      '.($evidence->weight < -0.05 ? '−' : '+').' '.$evidence->words;
            }
        }
        yield Amount::of(\count($proposals), 'join').' proposed';
    }
}
