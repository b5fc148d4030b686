<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Lineage\Graph;
use Fasti\Core\Lineage\OpenLineage;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:lineage', 'Says which fields the fields of views are made of, and what is made of a field')]
final readonly class LineageCommand
{
    public function __construct(private Targets $targets)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target,
        #[Argument('table.field or schema.table.field; all fields of all views without it')] string $field = '',
        #[Option('What is made of it, rather than what it is made of')] bool $up = false,
        #[Option('Only views of this schema')] string $schema = '',
        #[Option('text, json or openlineage')] string $format = 'text',
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if (!\in_array($format, ['text', 'json', 'openlineage'], true)) {
            $errors->writeln('The format is text, json or openlineage.');

            return Command::INVALID;
        }
        try {
            $catalog = $this->targets->catalog($target, $dialect);
            $start = '' === $field ? null : self::found($catalog, $field);
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::FAILURE;
        }
        $graph = Graph::of($catalog);
        $reach = null === $start ? null : $graph->reach([$start], $up);
        $wanted = null === $reach ? null : array_fill_keys(array_keys($reach), true);
        if ('text' === $format) {
            foreach (self::text($graph, $reach, $schema, $up) as $line) {
                $output->writeln($line, OutputInterface::OUTPUT_RAW);
            }
        } else {
            $data = 'json' === $format ? $graph->toArray($wanted, $schema) : (new OpenLineage(
                $catalog->engine,
                gmdate('Y-m-d\TH:i:s\Z'),
            ))->events(self::views($graph, $wanted, $schema));
            $output->writeln(
                json_encode(
                    $data,
                    \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT,
                ),
                OutputInterface::OUTPUT_RAW,
            );
        }
        foreach ($catalog->notes as $note) {
            $errors->writeln(OutputFormatter::escape($note));
        }

        return Command::SUCCESS;
    }

    /**
     * @param array<string, true>|null $wanted
     *
     * @return array<string, \Fasti\Core\Sql\Reading>
     */
    private static function views(Graph $graph, ?array $wanted, string $schema): array
    {
        $places = null === $wanted ? null : array_fill_keys(
            array_map(static fn (int|string $key): string => FieldPlace::ofKey((string) $key)->place()->key(), array_keys($wanted)),
            true,
        );

        return array_filter(
            $graph->readings,
            static fn (string $key): bool => (null === $places || isset($places[$key])) && ('' === $schema || Place::ofKey($key)->schema === $schema),
            \ARRAY_FILTER_USE_KEY,
        );
    }

    /**
     * @return string the key of the field
     *
     * @throws SourceError where there is none, or more than one
     */
    private static function found(Catalog $catalog, string $text): string
    {
        $place = FieldPlace::parse($text) ?? throw new SourceError(
            \sprintf('“%s” is not the name of a field.', $text),
            'Write table.field or schema.table.field, with parts in "…" where they hold a dot.',
        );
        $same = static fn (string $a, string $b): bool => mb_strtolower($a) === mb_strtolower($b);
        $tables = $found = [];
        foreach ($catalog->tables as $table) {
            if (!$same($table->name, $place->table) || ('' !== $place->schema && !$same($table->schema, $place->schema))) {
                continue;
            }
            $tables[] = (string) $table->place();
            foreach ($table->columns as $column) {
                if ($same($column->name, $place->column)) {
                    $found[] = (new FieldPlace($table->schema, $table->name, $column->name))->key();
                }
            }
        }
        $exact = array_values(
            array_filter(
                $found,
                static fn (string $key): bool => FieldPlace::ofKey($key)->column === $place->column && FieldPlace::ofKey($key)->table === $place->table,
            ),
        );
        $found = 1 === \count($exact) ? $exact : $found;
        if (1 === \count($found)) {
            return $found[0];
        }
        if ([] !== $found) {
            throw new SourceError(
                \sprintf(
                    '“%s” could be any of %s.',
                    $text,
                    implode(', ', array_map(static fn (string $key): string => (string) FieldPlace::ofKey($key), $found)),
                ),
                'Say the schema too.',
            );
        }
        throw new SourceError(
            [] === $tables ? \sprintf('There is no table “%s” in the target.', $place->table) : \sprintf(
                '%s has no field “%s”.',
                implode(' and ', $tables),
                $place->column,
            ),
            'fasti:survey with the same target lists what there is.',
        );
    }

    /**
     * @param array<string, int>|null $reach
     *
     * @return iterable<string>
     */
    private static function text(Graph $graph, ?array $reach, string $schema, bool $up): iterable
    {
        $any = false;
        foreach ($reach ?? [] as $key => $away) {
            if ($up || null === $graph->field($key)) {
                $any = $any || $away > 0;
                if ($up && $away > 0) {
                    yield \sprintf('%s%s  = %s', str_repeat('  ', $away - 1), FieldPlace::ofKey($key), $graph->field($key)->expression ?? '');
                }
            }
        }
        foreach ($up ? [] : $graph->readings as $key => $reading) {
            if ('' !== $schema && Place::ofKey($key)->schema !== $schema) {
                continue;
            }
            foreach ($reading->fields as $field) {
                $of = $key."\0".$field->name;
                if (null !== $reach && !isset($reach[$of])) {
                    continue;
                }
                $any = true;
                yield \sprintf('%s  = %s', FieldPlace::ofKey($of), preg_replace('/\s+/', ' ', $field->expression));
                foreach ($field->values as $value) {
                    yield '    from '.$value;
                }
            }
            foreach (null === $reach ? $reading->unknown : [] as $unknown) {
                yield \sprintf('%s, at %s: %s', Place::ofKey($key), $unknown->place($reading->text), $unknown->what);
            }
        }
        if (!$any) {
            yield match (true) {
                null === $reach => 'There is no view.',
                $up => 'Nothing is made of it.',
                default => 'It is a field of a table, or computed from no field.',
            };
        }
    }
}
