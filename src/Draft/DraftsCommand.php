<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Rule\OfVerb;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Survey\SourceError;
use Fasti\Profile\Looked;
use Fasti\Profile\TargetLook;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/**
 * Drafts for any target by what it says of itself: 0, or 2 when it could not be read.
 *
 * @phpstan-type Told array{of: array{schema: string, table: string, column: ?string}, property: string, text: string, confidence: float, because: list<string>}
 */
#[AsCommand('fasti:drafts', 'Proposes names and meanings for what is in a source, by what it says of itself')]
final readonly class DraftsCommand
{
    public function __construct(private TargetLook $look)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target,
        #[Option('text or json')] string $format = 'text',
        #[Option('Look at the data too')] bool $data = false,
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if (!\in_array($format, ['text', 'json'], true)) {
            $errors->writeln('The format is text or json.');

            return 2;
        }
        try {
            $looked = $this->look->at($target, $dialect, $data);
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return 2;
        }
        $told = self::drafts($looked);
        $output->writeln('json' === $format ? json_encode(
            ['drafts' => $told],
            \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE
                | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT | \JSON_PRESERVE_ZERO_FRACTION,
        ) : self::text($told), OutputInterface::OUTPUT_RAW);
        foreach ($looked->notes as $note) {
            $errors->writeln(OutputFormatter::escape($note));
        }

        return Command::SUCCESS;
    }

    /** @return list<Told> */
    private static function drafts(Looked $looked): array
    {
        $catalog = $looked->catalog;
        $material = Material::ofCatalog($catalog, (new Proposals())->of($catalog), $looked->profiles);
        $drafts = new Drafts();
        $told = [];
        foreach ($catalog->tables as $i => $table) {
            $of = ['schema' => $table->schema, 'table' => $table->name, 'column' => null];
            array_push($told, ...self::told($of, $drafts->ofEntry($material->entry($i))));
            foreach ($table->foreignKeys as $key) {
                $verbs = array_map(static fn (Draft $draft): array => [$draft], OfVerb::of($table->name, $key->columns, $key->references->table,
                    $table->primaryKey->columns ?? []));
                array_push($told, ...self::told(['column' => implode(', ', $key->columns)] + $of,
                    array_combine(array_map(static fn (array $one): string => $one[0]->property, $verbs), $verbs)));
            }
            foreach ($table->columns as $column) {
                array_push($told, ...self::told(['column' => $column->name] + $of, $drafts->ofField($material->field($i, $column))));
            }
        }

        return $told;
    }

    /**
     * @param array{schema: string, table: string, column: ?string} $of
     * @param array<string, non-empty-list<Draft>>                  $drafts
     *
     * @return list<Told> the surest of each property
     */
    private static function told(array $of, array $drafts): array
    {
        $told = [];
        foreach ($drafts as $property => $some) {
            $told[] = [
                'of' => ['schema' => $of['schema'], 'table' => $of['table'], 'column' => $of['column']], 'property' => $property, 'text' => $some[0]->text,
                'confidence' => round($some[0]->confidence, 3), 'because' => $some[0]->because,
            ];
        }

        return $told;
    }

    /** @param list<Told> $told */
    private static function text(array $told): string
    {
        $lines = [];
        $table = '';
        foreach ($told as $draft) {
            $of = $draft['of'];
            $place = ('' === $of['schema'] ? '' : $of['schema'].'.').$of['table'];
            if ($table !== $place) {
                $lines[] = ('' === $table ? '' : "\n").$place;
                $table = $place;
            }
            $lines[] = \sprintf('  %-28s %-13s %.2f  %s  (%s)', $of['column'] ?? '', $draft['property'], $draft['confidence'], $draft['text'], implode('; ',
                $draft['because']));
        }

        return [] === $lines ? 'Nothing can be proposed: no table was found.' : implode("\n", $lines);
    }
}
