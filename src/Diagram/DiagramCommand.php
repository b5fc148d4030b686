<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\FromCatalog;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;
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

#[AsCommand('fasti:diagram', 'Draws the tables of a source and their joins as SVG')]
final readonly class DiagramCommand
{
    public function __construct(private Sources $sources, private Targets $targets, private Fonts $fonts)
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
        #[Option('Where to write the drawing')] string $out = '',
        #[Option('Only this schema; may be repeated')] array $schema = [],
        #[Option('Only names that match; may be repeated')] array $include = [],
        #[Option('Not the names that match; may be repeated')] array $exclude = [],
        #[Option('names, keys or all')] string $detail = 'keys',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        $level = Detail::tryFrom($detail);
        if ('' === $out || null === $level) {
            $errors->writeln('' === $out ? 'Say where to write the drawing: --out=FILE.svg' : 'The detail is names, keys or all.');

            return Command::FAILURE;
        }
        try {
            $place = $this->targets->target($target);
            $catalog = $this->sources->reader($place)->read(new Choice($schema, $include, $exclude), new SilentProgress());
            if ([] === $catalog->tables) {
                throw new SourceError('Nothing matches, so there is nothing to draw.', 'Loosen --schema, --include or --exclude.');
            }
            [$tablets, $lines] = FromCatalog::of($catalog);
            $layout = Layout::of($tablets, $lines, $level);
        } catch (SourceError|PlacingError $e) {
            $errors->writeln(OutputFormatter::escape($e instanceof SourceError ? $e->inWords() : $e->getMessage()));

            return Command::FAILURE;
        }
        $svg = SvgDrawing::draw(
            $layout,
            new TitleBlock(
                $place->database ?: ($place->host ?: basename($place->path)),
                '',
                $catalog->server,
                '',
                date('j M Y'),
                Amount::of(\count($tablets), 'entry').', '.Amount::of(\count($lines), 'join'),
            ),
            true,
            $this->fonts->embedded(),
        );
        if (false === @file_put_contents($out, $svg)) {
            $errors->writeln(OutputFormatter::escape(\sprintf('“%s” cannot be written. Check that the folder exists and is yours.', $out)));

            return Command::FAILURE;
        }
        $output->writeln(OutputFormatter::escape(\sprintf(
            'Wrote %s: %s, %s.',
            $out,
            Amount::of(\count($tablets), 'entry'),
            Amount::of(\count($lines), 'join'),
        )));

        return Command::SUCCESS;
    }
}
