<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Unanswerable;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\Sources;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Output\OutputInterface;

/** The process in which Asker has a source asked: everything it needs comes on standard input, and it touches no database of Fasti's. */
#[AsCommand(name: AnswerCommand::NAME, description: 'Answers one trial for the application', hidden: true)]
final readonly class AnswerCommand
{
    public const NAME = 'fasti:model:answer';

    public function __construct(private Sources $sources)
    {
    }

    public function __invoke(OutputInterface $output): int
    {
        $output->writeln(
            json_encode($this->answer((string) stream_get_contents(\STDIN), $output), \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE),
            OutputInterface::OUTPUT_RAW,
        );

        return Command::SUCCESS;
    }

    /** @return array<string, mixed> */
    private function answer(string $json, OutputInterface $output): array
    {
        $given = json_decode($json, true);
        if (!\is_array($given) || !\is_array($given['target'] ?? null)) {
            return ['error' => 'There is nothing to answer.', 'advice' => 'This command is for the application itself; fasti:model:ask is the one for people.'];
        }
        $part = static fn (string $name): array => \is_array($given[$name] ?? null) ? $given[$name] : [];
        try {
            /** @var array<string, string> $units */
            $units = $part('units');
            /** @var array<string, string> $closed */
            $closed = $part('closed');
            /** @var array<string, array<array-key, string>> $codes */
            $codes = $part('codes');
            $ground = new Ground(
                OpenForm::read(Model::class, $part('model')), OpenForm::read(Catalog::class, $part('catalog')), $units, $closed,
                static fn (string $field): array => $codes[$field] ?? [],
            );
            $planner = new Planner($ground, new \DateTimeImmutable(\is_string($given['today'] ?? null) ? $given['today'] : 'today'));
            $trial = OpenForm::read(Trial::class, $part('trial'));
            $plan = $planner->plan($trial);
            // @phpstan-ignore-next-line it is what Asker took apart
            $target = new Target(...$part('target'));
            $rows = $this->sources->rows($target, \is_int($given['seconds'] ?? null) ? $given['seconds'] : Asker::SECONDS)
                ?? throw new SourceError('Files cannot be asked questions, only read.', 'Load them into a database, and let the model stand on that.');
            foreach (null === ($sql = $ground->sql()->session()) ? [] : $rows->rows($sql) as $row) {
                $output->writeln(json_encode(['session' => (string) $row['session']], \JSON_THROW_ON_ERROR), OutputInterface::OUTPUT_RAW);
            }
            $answer = (new Asking($rows))->answer($plan, true, static fn () => $planner->naive($trial));
            /** @var array<int, bool> $hidden */
            $hidden = $part('hidden');
            /** @var array<string, bool> $fields */
            $fields = $part('hiddenFields');

            return ['answer' => AnswerView::of($answer, $hidden, $fields)->toArray()];
        } catch (SourceError $e) {
            return ['error' => $e->getMessage(), 'advice' => $e->advice];
        } catch (ModelError|Unanswerable $e) {
            return ['error' => $e->getMessage()];
        }
    }
}
