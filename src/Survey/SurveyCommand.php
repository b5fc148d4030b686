<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Standouts;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\ColumnWords;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

#[AsCommand('fasti:survey', 'Reads the structure of a source and prints it, storing nothing')]
final readonly class SurveyCommand
{
    /** @param iterable<CatalogCheck> $checks */
    public function __construct(private Targets $targets, #[AutowireIterator('fasti.catalog_check')] private iterable $checks)
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
        #[Option('Only this schema; may be repeated')] array $schema = [],
        #[Option('Only names that match, e.g. "sample*" or "archive.*"; may be repeated')] array $include = [],
        #[Option('Not the names that match; may be repeated')] array $exclude = [],
        #[Option('text or json')] string $format = 'text',
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if (!\in_array($format, ['text', 'json'], true)) {
            $errors->writeln('The format is text or json.');

            return Command::FAILURE;
        }
        try {
            $catalog = $this->targets->catalog($target, $dialect, new Choice($schema, $include, $exclude));
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::FAILURE;
        }
        if ('json' === $format) {
            $output->writeln(
                json_encode(
                    OpenForm::of($catalog),
                    \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT,
                ),
                OutputInterface::OUTPUT_RAW,
            );
        } else {
            foreach ($this->text($catalog) as $line) {
                $output->writeln($line, OutputInterface::OUTPUT_RAW);
            }
        }
        if (null !== $catalog->statements) {
            $errors->writeln(OutputFormatter::escape(trim($catalog->statements->inWords().' '.$catalog->statements->told)));
        }
        foreach ($catalog->notes as $note) {
            $errors->writeln(OutputFormatter::escape($note));
        }

        return Command::SUCCESS;
    }

    /** @return iterable<string> */
    private function text(Catalog $catalog): iterable
    {
        yield \sprintf('%s, %s', $catalog->server, Amount::of(\count($catalog->tables), 'object'));
        foreach ($catalog->tables as $table) {
            yield '';
            yield \sprintf('%s %s%s', $table->kind->value, $table->place(), '' === $table->comment ? '' : ': '.$table->comment);
            $width = max([0, ...array_map(static fn (Column $column): int => mb_strwidth($column->name), $table->columns)]);
            foreach ($table->columns as $column) {
                $mark = null !== $table->primaryKey && \in_array($column->name, $table->primaryKey->columns, true) ? '|' : ' ';
                $words = implode(', ', [Dialects::ofCatalog($catalog)->typeInWords($column), ...ColumnWords::of($column)]);
                yield \sprintf(
                    ' %s %s  %s%s', $mark, $column->name.str_repeat(' ', $width - mb_strwidth($column->name)), $words,
                    '' === $column->comment ? '' : ': '.$column->comment,
                );
            }
            foreach ($table->foreignKeys as $key) {
                yield \sprintf('   %s refers to %s (%s)', implode(', ', $key->columns), $key->references->place(), implode(', ', $key->references->columns));
            }
        }
        $standouts = (new Standouts($this->checks))->of($catalog);
        if ([] !== $standouts) {
            yield '';
            yield 'What stands out';
            foreach ($standouts as $group) {
                yield '  '.$group['title'].'. '.$group['check']->why();
            }
        }
    }
}
