<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\FromCatalog;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TitleBlock;
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
use Symfony\Component\Routing\Generator\UrlGeneratorInterface;

#[AsCommand('fasti:diagram', 'Draws the tables of a source and their joins, or a diagram that is kept, as SVG, PNG or PDF')]
final readonly class DiagramCommand
{
    public function __construct(
        private Targets $targets,
        private Out $files,
        private Diagrams $diagrams,
        private KeptDrawing $drawing,
        private UrlGeneratorInterface $urls,
    ) {
    }

    /**
     * @param list<string> $schema
     * @param list<string> $include
     * @param list<string> $exclude
     */
    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target = '',
        #[Option('Where to write the drawing; its ending says the format: .svg, .png or .pdf')] string $out = '',
        #[Option('Only this schema; may be repeated')] array $schema = [],
        #[Option('Only names that match; may be repeated')] array $include = [],
        #[Option('Not the names that match; may be repeated')] array $exclude = [],
        #[Option('names, keys or all; of a kept diagram also leads')] string $detail = '',
        #[Option('A diagram that is kept, by its name, in place of a target')] string $kept = '',
        #[Option('Only this table or view and what it joins')] string $from = '',
        #[Option('How many joins away from it')] int $steps = 1,
        #[Option('The paper of a PDF: A4, A3, A2, A1 or A0')] string $paper = '',
        #[Option('How wide a PNG is to be, in px')] int $width = 0,
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        $format = strtolower(pathinfo($out, \PATHINFO_EXTENSION));
        $paper = strtoupper($paper);
        $level = Detail::tryFrom($detail);
        $wrong = match (true) {
            ('' === $target) === ('' === $kept) => 'Say what to draw: a target, or --kept=NAME, and not both.',
            '' === $out => 'Say where to write the drawing: --out=FILE.svg, .png or .pdf',
            !isset(Out::FORMATS[$format]) => \sprintf('“%s” ends in no format that is known: .svg, .png or .pdf.', $out),
            '' !== $detail && null === $level => 'The detail is names, keys, leads or all.',
            '' !== $paper && !isset(Raster::PAPERS[$paper]) => 'The paper is one of '.implode(', ', array_keys(Raster::PAPERS)).'.',
            $steps < 1 => 'At least one step leads to what an entry joins: --steps=1.',
            default => '',
        };
        if ('' !== $wrong) {
            $errors->writeln(OutputFormatter::escape($wrong));

            return Command::FAILURE;
        }
        try {
            [$layout, $block] = '' === $kept
                ? $this->ofTarget($target, new Choice($schema, $include, $exclude), $from, $steps, $level ?? Detail::Keys, $dialect, 'pdf' === $format)
                : $this->kept($kept, $level);
            $file = $this->files->file($layout, $block, $format, $paper, max(0, $width));
        } catch (SourceError|\RuntimeException $e) {
            $errors->writeln(OutputFormatter::escape($e instanceof SourceError ? $e->inWords() : $e->getMessage()));

            return Command::FAILURE;
        }
        if (false === @file_put_contents($out, $file)) {
            $errors->writeln(OutputFormatter::escape(\sprintf('“%s” cannot be written. Check that the folder exists and is yours.', $out)));

            return Command::FAILURE;
        }
        $output->writeln(OutputFormatter::escape(\sprintf('Wrote %s: %s.', $out, RegisterDiagram::counted($layout))));

        return Command::SUCCESS;
    }

    /**
     * @return array{Layout, TitleBlock}
     *
     * @throws SourceError|PlacingError
     */
    private function ofTarget(string $target, Choice $choice, string $from, int $steps, Detail $detail, string $dialect, bool $paper): array
    {
        $catalog = $this->targets->catalog($target, $dialect, $choice);
        if ([] === $catalog->tables) {
            throw new SourceError('Nothing matches, so there is nothing to draw.', 'Loosen --schema, --include or --exclude.');
        }
        [$tablets, $lines] = FromCatalog::of($catalog);
        $around = null;
        if ('' !== $from) {
            $around = self::named($catalog, $from);
            $near = FromCatalog::near($lines, $around, $steps);
            $tablets = array_values(array_filter($tablets, static fn (Tablet $tablet): bool => isset($near[$tablet->id])));
        }
        $layout = Layout::of($tablets, $lines, $detail, 1 === $steps ? $around : null, $paper ? Raster::SHAPE : null);
        $name = null === $around ? $this->targets->title($target) : 'Around '.$catalog->tables[$around]->name;

        return [$layout, new TitleBlock($name, '', $catalog->server, '', date('j M Y'), RegisterDiagram::counted($layout))];
    }

    /**
     * @return array{Layout, TitleBlock}
     *
     * @throws SourceError
     */
    private function kept(string $name, ?Detail $detail): array
    {
        $diagram = $this->diagrams->named($name);
        if (null === $diagram) {
            $names = array_map(static fn (Diagram $one): string => '“'.$one->name.'”', $this->diagrams->all('', true));
            throw new SourceError(
                \sprintf('No diagram is kept under the name “%s”.', $name),
                [] === $names ? 'None is kept yet.' : 'There are: '.implode(', ', \array_slice($names, 0, 12)).'.',
            );
        }
        $arrangement = $this->drawing->arrangement($diagram);
        $entries = $this->drawing->entries($arrangement);
        $link = fn (int $entry): string => $this->urls->generate('entry', ['id' => $entry], UrlGeneratorInterface::ABSOLUTE_URL);
        $layout = $this->drawing->layout($diagram, $arrangement, $entries, $this->drawing->look($entries, $link, true, false), $detail);

        return [$layout, KeptDrawing::block($diagram, $entries, $layout)];
    }

    /** @throws SourceError */
    private static function named(Catalog $catalog, string $name): int
    {
        $found = array_keys(array_filter(
            $catalog->tables,
            static fn (Table $table): bool => \in_array(mb_strtolower($name), [mb_strtolower($table->name), mb_strtolower((string) $table->place())], true),
        ));
        if (1 === \count($found)) {
            return $found[0];
        }
        throw new SourceError(
            [] === $found ? \sprintf('There is no table or view “%s” there.', $name) : \sprintf('%d tables are called “%s”.', \count($found), $name),
            [] === $found ? 'Look at how it is written.' : 'Name the schema too: --from=schema.'.$name.'.',
        );
    }
}
