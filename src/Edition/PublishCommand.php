<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Wording\Amount;
use Fasti\Source\SourceStore;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\Filesystem\Filesystem;

#[AsCommand('fasti:publish', 'Makes a numbered edition of the register and writes it to a folder')]
final readonly class PublishCommand
{
    public function __construct(private Editions $editions, private SourceStore $sources)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Option('The folder to write; it is made, or replaced if it holds an edition')] string $out = '',
        #[Option('Only this source')] string $source = '',
        #[Option('What to call the edition')] string $title = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        $fail = static function (string $message) use ($errors): int {
            $errors->writeln(OutputFormatter::escape($message));

            return Command::FAILURE;
        };
        if ('' === $out) {
            return $fail('Say where to write the edition: --out=DIR');
        }
        if (is_dir($out) && !is_file($out.'/edition.json') && \count(scandir($out) ?: []) > 2) {
            return $fail(\sprintf('“%s” holds something that is not an edition, so it is left alone. Name another folder.', $out));
        }
        $scope = '' === $source ? [] : array_values(array_filter([$this->sources->named($source)]));
        if ('' !== $source && [] === $scope) {
            return $fail(\sprintf('There is no source called “%s”.', $source));
        }
        $edition = $this->editions->now($title, $scope);
        if (null === $edition->madeAt) {
            return $fail($edition->job->error);
        }
        $files = new Filesystem();
        $files->remove($out);
        $files->mirror($this->editions->folder($edition->number), $out);
        $zip = $this->editions->zip($edition->number);
        $output->writeln(OutputFormatter::escape(\sprintf(
            'Edition %d is in %s, and packed in %s (%s).',
            $edition->number,
            $out,
            $zip,
            Amount::bytes((int) filesize($zip)),
        )));

        return Command::SUCCESS;
    }
}
