<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelDataChecks;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelFinding;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/**
 * For people and for build servers: 0 when nothing of the asked severity was found and every kept trial is answered, 1 when not, 2 when it
 * could not be checked.
 */
#[AsCommand('fasti:model:check', 'Says what speaks against an analytic model, in its structure and in its data, and asks its kept trials')]
final readonly class ModelCheckCommand
{
    public function __construct(private Targeted $targeted, private Grounds $grounds, private Models $models, private ModelJob $job)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument('A model of the register, by its name')] string $name = '',
        #[Option('A model in a file, as its page gives it')] string $file = '',
        #[Option('Where the source of a model in a file is: a URL or a file')] string $target = '',
        #[Option('The least severity that makes the command end with 1: note, doubt or fault')] string $failOn = 'fault',
        #[Option('text or json')] string $format = 'text',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        $least = Severity::tryFrom($failOn);
        if (null === $least || !\in_array($format, ['text', 'json'], true)) {
            $errors->writeln(null === $least ? 'The severity is note, doubt or fault.' : 'The format is text or json.');

            return Command::INVALID;
        }
        try {
            [$ground, $rows, $kept] = $this->targeted->model($name, $file, $target);
            $checks = new ModelDataChecks($ground, $rows);
            $found = (new ModelChecks($ground, ...null === $kept ? [] : [$this->grounds->known($kept)]))->all();
            if (null === $kept) {
                $found = [...$found, ...$checks->all(new SilentProgress())];
                $notes = $checks->notes;
            } else {
                $this->job->look($kept, new SilentProgress());
                $found = [...$found, ...$kept->dataFindings()];
                $notes = $kept->lookedNotes();
            }
        } catch (ModelError|SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e instanceof SourceError ? $e->inWords() : $e->getMessage()));

            return Command::INVALID;
        }
        $trials = null === $kept ? [] : $this->models->trials($kept);
        $answered = \count(array_filter($trials, static fn (KeptTrial $trial): bool => KeptTrial::ANSWERED === $trial->state));
        if ('json' === $format) {
            self::json($output, $found, $trials, $notes);
        } else {
            self::text($output, $found, $trials, $answered);
        }
        foreach ($notes as $note) {
            $errors->writeln(OutputFormatter::escape($note));
        }
        $grave = array_filter($found, static fn (ModelFinding $one): bool => $one->severity->rank() >= $least->rank());

        return [] === $grave && $answered === \count($trials) ? Command::SUCCESS : Command::FAILURE;
    }

    /**
     * @param list<ModelFinding> $found
     * @param list<KeptTrial>    $trials
     */
    private static function text(OutputInterface $output, array $found, array $trials, int $answered): void
    {
        foreach ($found as $one) {
            $output->writeln(
                \sprintf('%s  %s: %s. %s %s', $one->severity->value, $one->check, $one->words, $one->why, $one->mend),
                OutputInterface::OUTPUT_RAW,
            );
        }
        if ([] === $found) {
            $output->writeln('Nothing speaks against the model.');
        }
        foreach ($trials as $trial) {
            if (KeptTrial::ANSWERED !== $trial->state) {
                $output->writeln(
                    \sprintf('trial  %s: %s. %s', $trial->name, $trial->state, $trial->words),
                    OutputInterface::OUTPUT_RAW,
                );
            }
        }
        if ([] !== $trials) {
            $output->writeln(\sprintf('%d of %d kept trials are answered.', $answered, \count($trials)));
        }
    }

    /**
     * @param list<ModelFinding> $found
     * @param list<KeptTrial>    $trials
     * @param list<string>       $notes
     */
    private static function json(OutputInterface $output, array $found, array $trials, array $notes): void
    {
        $output->writeln(json_encode([
            'findings' => array_map(static fn (ModelFinding $one): array => [
                'check' => $one->check, 'severity' => $one->severity->value, 'about' => $one->about, 'what' => $one->words, 'why' => $one->why,
                'mend' => $one->mend,
                'rows' => $one->rows, 'sql' => $one->sql,
            ], $found),
            'trials' => array_map(static fn (KeptTrial $trial): array => ['name' => $trial->name, 'state' => $trial->state, 'words' => $trial->words], $trials),
            'notes' => $notes,
        ], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES), OutputInterface::OUTPUT_RAW);
    }
}
