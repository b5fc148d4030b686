<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Fasti\Core\Survey\SourceError;
use Fasti\Source\Deliveries;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:validate', 'Tests documents against a JSON Schema, and lists what fails and why')]
final readonly class ValidateCommand
{
    public function __construct(private DocumentTest $test, private Deliveries $deliveries)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument('A .json or .jsonl file of documents')] string $documents,
        #[Option('The JSON Schema')] string $schema = '',
        #[Option('List at most so many failures')] int $most = 100,
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        try {
            if ('' === $schema || !is_file($schema)) {
                throw new SourceError('' === $schema ? 'No schema is given.' : \sprintf('There is no file “%s”.', $schema), 'Name it with --schema=FILE.');
            }
            $path = $this->deliveries->unpacked($documents);
            $path = is_dir($path) ? (glob($path.'/*') ?: [$path])[0] : $path;
            $result = $this->test->run($path, (string) file_get_contents($schema), max(1, $most));
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::INVALID;
        }
        foreach ($result['failures'] as $failure) {
            $output->writeln(\sprintf('document %d, %s: %s', $failure['document'], $failure['path'], $failure['why']), OutputInterface::OUTPUT_RAW);
        }
        foreach ($result['notes'] as $note) {
            $errors->writeln(OutputFormatter::escape($note));
        }
        $output->writeln(
            0 === $result['failed']
                ? \sprintf('All %d documents satisfy the schema.', $result['documents'])
                : \sprintf('%d of %d documents do not satisfy the schema.', $result['failed'], $result['documents']),
            OutputInterface::OUTPUT_RAW,
        );

        return 0 === $result['failed'] && [] === $result['notes'] ? Command::SUCCESS : Command::FAILURE;
    }
}
