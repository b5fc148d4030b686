<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\ChangeStep;
use Fasti\Core\Design\Checks;
use Fasti\Core\Design\DesignFile;
use Fasti\Core\Design\DesignFinding;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Drawing;
use Fasti\Core\Design\Formatting;
use Fasti\Core\Design\Matching;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Design\Worked;
use Fasti\Core\Design\Working;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:design', 'Writes a design, given as an outline, as a script, as JSON, as a drawing, or in its usual form')]
final readonly class DesignCommand
{
    private const FORMATS = ['sql', 'json', 'svg', 'outline'];

    public function __construct(private Targets $targets)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument('A file that holds an outline; - for standard input')] string $file,
        #[Option('The engine; a name that is none is answered with those there are. Without it, that of the outline')] string $dialect = '',
        #[Option('sql, json, svg or outline')] string $format = 'sql',
        #[Option('conceptual, logical or physical; of a script and a catalog it is physical')] string $depth = '',
        #[Option('The schema that names begin with')] string $schema = '',
        #[Option('Drop first what is there')] bool $drop = false,
        #[Option('Leave meanings out of the database')] bool $bare = false,
        #[Option('Quote every name')] bool $quoted = false,
        #[Option('Print what would have to change there instead: a target, as fasti:survey takes it')] string $against = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        $says = static function (string $words) use ($errors): void {
            $errors->writeln(OutputFormatter::escape($words));
        };
        $text = '-' === $file ? stream_get_contents(\STDIN) : @file_get_contents($file);
        $wrong = false === $text ? \sprintf('There is no file “%s” that can be read.', $file) : self::wrong($format, $depth, $dialect);
        if ('' !== $wrong) {
            $says($wrong);

            return Command::INVALID;
        }
        $outline = Outline::read((string) $text);
        foreach ($outline->faults as $fault) {
            $says((string) $fault);
        }
        if ('outline' === $format) {
            $output->write(Formatting::of((string) $text), false, OutputInterface::OUTPUT_RAW);

            return [] === $outline->faults ? Command::SUCCESS : Command::FAILURE;
        }
        if ([] !== $outline->faults) {
            $says('Nothing is written while a line is not understood.');

            return Command::FAILURE;
        }
        if ('' !== $against) {
            return $this->against($outline, $against, $dialect, $format, $output, $says);
        }
        $worked = Working::of($outline->design);
        $engine = '' === $dialect ? null : Dialects::named($dialect);
        $physical = new Physical($worked, $engine ?? Physical::dialectOf($outline->design), [], '');
        if ('' === $depth) {
            $depth = 'svg' === $format ? 'conceptual' : 'physical';
        }
        $findings = [...Checks::of($outline->design, $worked), ...('physical' === $depth ? $physical->findings : [])];
        foreach ($findings as $finding) {
            $says(\sprintf('%s%s %s', 0 === $finding->line ? '' : "Line $finding->line: ", $finding->words, $finding->todo));
        }
        $output->write(match ($format) {
            'json' => $this->json($outline, $worked, $physical, $depth),
            'svg' => $this->svg($outline, $worked, $physical, $depth),
            default => (new DesignScript($physical))->text(new ScriptOptions('' === $schema ? null : $schema, $drop, !$bare, $quoted)),
        }, false, OutputInterface::OUTPUT_RAW);

        return [] === array_filter($findings, static fn (DesignFinding $finding): bool => $finding->serious) ? Command::SUCCESS : Command::FAILURE;
    }

    /** What cannot be done as it is asked; '' for nothing. */
    private static function wrong(string $format, string $depth, string $dialect): string
    {
        $engine = '' === $dialect ? null : Dialects::named($dialect);

        return match (true) {
            !\in_array($format, self::FORMATS, true) => 'The format is one of '.implode(', ', self::FORMATS).'.',
            '' !== $depth && !\in_array($depth, Sight::DEPTHS, true) => 'The depth is one of '.implode(', ', Sight::DEPTHS).'.',
            '' !== $dialect && (null === $engine || !$engine->writes()) => \sprintf(
                'No scripts are written for “%s”. There are: %s.',
                $dialect,
                implode(', ', array_keys(DesignController::engines())),
            ),
            default => '',
        };
    }

    /** @param \Closure(string): void $says */
    private function against(Outline $outline, string $against, string $dialect, string $format, OutputInterface $output, \Closure $says): int
    {
        try {
            $before = $this->targets->catalog($against, $dialect);
            $engine = Dialects::ofCatalog($before);
            $schemas = array_unique(array_map(static fn (Table $table): string => $table->schema, $before->tables));
            $schema = 1 === \count($schemas) ? (string) array_values($schemas)[0] : ($engine->capabilities()->home ?? '');
            $physical = new Physical(Working::of($outline->design), $engine, [], $schema);
            $options = new ScriptOptions(places: \count($schemas) > 1);
            $after = ReadBack::script((new DesignScript($physical))->text($options), $engine, $schema);
        } catch (SourceError $e) {
            $says($e->inWords());

            return Command::INVALID;
        }
        $changes = Changes::between($before->with(routines: []), $after, Matching::of($before, $after, $physical), $options);
        foreach ($changes->guesses as $words) {
            $says($words);
        }
        $output->write('json' === $format ? json_encode(['steps' => array_map(static fn (ChangeStep $step): array => [
            'words' => $step->words, 'risk' => $step->risk, 'table' => $step->table, 'sql' => $step->sql,
        ], $changes->steps)], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES)
            ."\n" : $changes->script(), false, OutputInterface::OUTPUT_RAW);

        return [] === $changes->steps ? Command::SUCCESS : Command::FAILURE;
    }

    private function json(Outline $outline, Worked $worked, Physical $physical, string $depth): string
    {
        return ('physical' === $depth
            ? json_encode(OpenForm::of($physical->catalog), \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES)
            : DesignFile::json($outline->design, 'logical' === $depth ? $worked : null))."\n";
    }

    private function svg(Outline $outline, Worked $worked, Physical $physical, string $depth): string
    {
        [$tablets, $lines] = match ($depth) {
            'physical' => Drawing::physical($physical),
            'logical' => Drawing::logical($worked),
            default => Drawing::conceptual($outline->design),
        };
        $layout = Sight::laid($tablets, $lines, 'conceptual' === $depth ? Detail::Names : Detail::All, []);

        return SvgDrawing::draw($layout, new TitleBlock($outline->design->name, $outline->design->purpose, '', '', date('j M Y')), true);
    }
}
