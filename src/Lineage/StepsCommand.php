<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Lineage\Steps;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:steps', 'Says step by step how a view makes its rows')]
final readonly class StepsCommand
{
    public function __construct(private Targets $targets)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target,
        #[Argument('The view, as name or schema.name')] string $view,
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        try {
            $catalog = $this->targets->catalog($target, $dialect);
            $place = Place::parse($view) ?? throw new SourceError(\sprintf('“%s” is not the name of a view.', $view), 'Write name or schema.name.');
            $found = array_values(
                array_filter(
                    $catalog->tables,
                    static fn (Table $table): bool => 0 === strcasecmp($table->name, $place->name) && ('' === $place->schema || 0 === strcasecmp(
                        $table->schema,
                        $place->schema,
                    )),
                ),
            );
            if (1 !== \count($found)) {
                throw new SourceError(
                    [] === $found ? \sprintf('There is no view “%s” in the target.', $view) : \sprintf(
                        '“%s” could be any of %s.',
                        $view,
                        implode(', ', array_map(static fn (Table $table): string => (string) $table->place(), $found)),
                    ),
                    [] === $found ? 'fasti:survey with the same target lists what there is.' : 'Say the schema too.',
                );
            }
            if (null === $found[0]->definition) {
                throw new SourceError(
                    \sprintf(
                        '%s is a %s%s.',
                        $found[0]->place(),
                        $found[0]->kind->value,
                        $found[0]->kind->isView() ? ' whose query the account may not read' : ', which is made of no query',
                    ),
                    $found[0]->kind->isView() ? 'Its owner can grant the right to see it.' : 'Name a view.',
                );
            }
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::FAILURE;
        }
        $reading = (new Readings($catalog))->of($found[0]);
        foreach ((new Steps($catalog))->of($reading) as $i => $step) {
            $inputs = array_map(static fn (int $input): string => (string) ($input + 1), $step->inputs);
            $output->writeln(\sprintf(
                '%3d  %s%s%s%s%s',
                $i + 1,
                $step->words,
                '' === $step->detail ? '' : ': '.$step->detail,
                '' === $step->rows ? '' : ' ('.$step->rows.')',
                '' === $step->named ? '' : ', and call it '.$step->named,
                \count($inputs) > 1 || ([] !== $inputs && $inputs !== [(string) $i]) ? '   ← '.implode(', ', $inputs) : '',
            ), OutputInterface::OUTPUT_RAW);
        }
        foreach ($reading->unknown as $unknown) {
            $output->writeln(\sprintf('     Not understood at %s: %s', $unknown->place($reading->text), $unknown->what), OutputInterface::OUTPUT_RAW);
        }

        return Command::SUCCESS;
    }
}
