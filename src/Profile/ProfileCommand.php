<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\ProfileArray;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;
use Fasti\Register\GrainFields;
use Fasti\Source\Sources;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:profile', 'Says what the data of a table is like, storing nothing')]
final readonly class ProfileCommand
{
    public function __construct(private Sources $sources, private Targets $targets)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target,
        #[Option('The table: its name, or schema.name; a part that holds a dot stands in quotation marks')] string $table = '',
        #[Option('Fields that should tell rows apart, with commas between')] string $grain = '',
        #[Option('text or json')] string $format = 'text',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        try {
            if (!\in_array($format, ['text', 'json'], true)) {
                throw new SourceError('The format is text or json.', '');
            }
            if ('' === $table) {
                throw new SourceError('No table is named.', 'Name it with --table=NAME.');
            }
            $where = $this->targets->target($target);
            $wanted = $this->table($this->sources->reader($where)->read(new Choice(), new SilentProgress())->tables, $table);
            $profile = (new Profiling($this->sources, $where))->table($wanted, GrainFields::named($grain), [], new SilentProgress());
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::FAILURE;
        }
        if ('json' === $format) {
            $output->writeln(
                json_encode(
                    ['schema' => $wanted->schema, 'table' => $wanted->name, 'takenAt' => gmdate('c')] + ProfileArray::of($profile),
                    \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT,
                ),
                OutputInterface::OUTPUT_RAW,
            );
        } else {
            foreach (self::text($wanted, $profile) as $line) {
                $output->writeln($line, OutputInterface::OUTPUT_RAW);
            }
        }

        return Command::SUCCESS;
    }

    /** @param list<Table> $tables */
    private function table(array $tables, string $name): Table
    {
        $place = Place::parse($name);
        $found = array_values(array_filter(
            $tables,
            static fn (Table $table): bool => $table->name === $name || null !== $place && $table->name === $place->name && \in_array(
                $place->schema,
                ['', $table->schema],
                true,
            ),
        ));

        return match (\count($found)) {
            0 => throw new SourceError(\sprintf('There is no table “%s”.', $name), 'Letters count as capital and small; fasti:survey lists what there is.'),
            1 => $found[0],
            default => throw new SourceError(
                \sprintf('There is “%s” in %s.', $name, implode(' and ', array_map(static fn (Table $table): string => $table->schema, $found))),
                'Name it with its schema, as in --table=schema.name.',
            ),
        };
    }

    /** @return iterable<string> */
    private static function text(Table $table, TableProfile $profile): iterable
    {
        yield \sprintf('%s, %s, %.1f s', $table->place(), Amount::of($profile->rows, 'row'), $profile->seconds);
        if ('' !== $profile->how) {
            yield $profile->how;
        }
        foreach ($profile->notes as $note) {
            yield $note;
        }
        if (null !== $profile->repeated && [] !== $profile->grain) {
            yield \sprintf(
                '%s by %s',
                0 === $profile->repeated
                    ? 'No row repeats another'
                    : Amount::of($profile->repeated, 'row').(1 === $profile->repeated ? ' repeats another' : ' repeat another'),
                \count($profile->grain) > 6 ? 'all fields' : implode(', ', $profile->grain),
            );
        }
        foreach ($profile->fields as $name => $field) {
            yield '';
            yield \sprintf('%s: %s', $name, implode(', ', self::words($field)));
        }
    }

    /** @return list<string> */
    private static function words(FieldProfile $field): array
    {
        $words = [\sprintf('%d %% filled', Amount::percent($field->filled(), max(1, $field->rows)))];
        if (null !== $field->distinct) {
            $words[] = Amount::count($field->distinct).' different';
        }
        if ('' !== $field->likely) {
            $words[] = $field->likely.($field->percent < 100 ? \sprintf(' (%d %%)', $field->percent) : '');
        }
        if ('' !== $field->personal) {
            $words[] = 'personal: '.$field->personal;
        }
        if (null !== $field->least) {
            $words[] = \sprintf('from %s to %s', $field->least, $field->greatest);
        }
        foreach (\array_slice($field->frequent, 0, 5, true) as $value => $count) {
            $words[] = \sprintf('%s × %s', $value, Amount::count($count));
        }

        return $words;
    }
}
