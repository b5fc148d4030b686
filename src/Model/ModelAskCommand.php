<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Model\Answer;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Coded;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Parameters;
use Fasti\Core\Model\PlanColumn;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Reconciled;
use Fasti\Core\Model\Unanswerable;
use Fasti\Core\Survey\SourceError;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\HttpFoundation\InputBag;

/** 0 when it is answered, 1 when the model cannot answer it, 2 when it could not be asked. */
#[AsCommand('fasti:model:ask', 'Puts a question to an analytic model')]
final readonly class ModelAskCommand
{
    public function __construct(private Targeted $targeted)
    {
    }

    /**
     * @param list<string> $measure
     * @param list<string> $by
     * @param list<string> $where
     * @param list<string> $order
     * @param list<string> $set
     */
    public function __invoke(
        OutputInterface $output,
        #[Argument('A model of the register, by its name')] string $name = '',
        #[Option('A model in a file, as its page gives it')] string $file = '',
        #[Option('Where the source of a model in a file is: a URL or a file; without it the source of the register that the file names')] string $target = '',
        #[Option('A figure, or what stands beside one, as "share of individuals"; may be said several times')] array $measure = [],
        #[Option('What it is split by; may be said several times')] array $by = [],
        #[Option('A condition: "year is 2025", "day is in last month"; may be said several times')] array $where = [],
        #[Option('What the rows stand in order by, with - before it the greatest first; may be said several times')] array $order = [],
        #[Option('How many rows: 10, "5 of each station", "5 and the others"; all, where it is not said')] string $limit = '',
        #[Option('What a question leaves open, as year=2025; may be said several times')] array $set = [],
        #[Option('sql, csv or json')] string $format = 'csv',
        #[Option('Say too whether the totals agree with the facts alone')] bool $reconcile = false,
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if (!\in_array($format, ['sql', 'csv', 'json'], true)) {
            $errors->writeln('The format is sql, csv or json.');

            return Command::INVALID;
        }
        try {
            if (1 === preg_match('/^\s*0+\s*$/', $limit)) {
                throw new ModelError('The number of rows to show must be 1 or more.');
            }
            [$ground, $rows] = $this->targeted->model($name, $file, $target);
            $trial = TrialRequest::read(self::bag($measure, $by, $where, $order, $limit), $ground->names());
            $trial = Parameters::said($trial, self::values($set));
            $planner = new Planner($ground, new \DateTimeImmutable('today'));
            $plan = $planner->plan($trial);
            if ('sql' === $format) {
                $output->writeln($plan->sql(), OutputInterface::OUTPUT_RAW);

                return Command::SUCCESS;
            }
            $answer = (new Asking($rows))->answer($plan, $reconcile, static fn () => $planner->naive($trial));
        } catch (Unanswerable $e) {
            $errors->writeln(array_map(OutputFormatter::escape(...), $e->reasons));
            foreach ($e->offers as $offer) {
                $errors->writeln(OutputFormatter::escape('  '.$offer->words));
            }

            return Command::FAILURE;
        } catch (ModelError|SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e instanceof SourceError ? $e->inWords() : $e->getMessage()));

            return Command::INVALID;
        }
        foreach ($answer->doubled as $doubled) {
            $errors->writeln(OutputFormatter::escape($doubled->words));
        }
        if ([] === $answer->doubled) {
            self::write($output, $answer, $format);
        }
        foreach ($answer->reconciled as $one) {
            $errors->writeln(OutputFormatter::escape(self::told($one)));
        }
        foreach ([...$answer->notes, ...$answer->notAdded()] as $words) {
            $errors->writeln(OutputFormatter::escape($words));
        }
        foreach ($answer->unknown as $unknown) {
            $errors->writeln(OutputFormatter::escape($unknown->inWords()));
        }
        foreach ($answer->lost as $lost) {
            $errors->writeln(OutputFormatter::escape($lost->words));
        }
        if ($answer->cut) {
            $errors->writeln(\sprintf('There are more than %s rows; the rest is left out.', number_format(Planner::MOST_ROWS)));
        }

        return [] === $answer->doubled ? Command::SUCCESS : Command::FAILURE;
    }

    /**
     * @param list<string> $set
     *
     * @return array<string, string>
     */
    private static function values(array $set): array
    {
        $values = [];
        foreach ($set as $one) {
            $parts = explode('=', $one, 2);
            $values[trim($parts[0])] = $parts[1] ?? throw new ModelError(\sprintf('“%s” says no value: write it as year=2025.', $one));
        }

        return $values;
    }

    /**
     * @param list<string> $measure
     * @param list<string> $by
     * @param list<string> $where
     * @param list<string> $order
     *
     * @return InputBag<string>
     */
    private static function bag(array $measure, array $by, array $where, array $order, string $limit): InputBag
    {
        /** @var InputBag<string> $bag */
        $bag = new InputBag(['m' => $measure, 'b' => $by, 'w' => $where, 'o' => $order, 'n' => $limit]);

        return $bag;
    }

    private static function told(Reconciled $one): string
    {
        return \sprintf(
            '%s %s: %s here, %s on %s alone.%s',
            $one->measure,
            $one->agrees() ? 'agrees' : 'differs',
            $one->here ?? 'none',
            $one->alone ?? 'none',
            $one->fact,
            '' === $one->times() ? '' : ' That is '.$one->times().'.',
        );
    }

    private static function write(OutputInterface $output, Answer $answer, string $format): void
    {
        $names = array_map(static fn (PlanColumn $column): string => $column->name, $answer->plan->columns);
        $rows = $answer->rows;
        foreach ($answer->plan->others ? $rows : [] as $i => $row) {
            $rows[$i] = [...$row, (string) ($answer->others[$i] ?? 0)];
        }
        $together = 'put together';
        $coded = Coded::of($answer->plan->columns, $answer->plan->others ? [...$names, $together] : $names, $rows);
        if ('json' === $format) {
            $rows = array_map(static fn (array $row): array => array_combine($coded->names, array_map(
                static fn (?string $value, ?PlanColumn $column, string $name): string|float|int|null => match (true) {
                    null !== $column => $column->exact($value),
                    $name === $together => (int) $value,
                    default => $value,
                },
                $row,
                $coded->columns,
                $coded->names,
            )), $coded->rows);
            $output->writeln(
                json_encode($rows, \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE),
                OutputInterface::OUTPUT_RAW,
            );

            return;
        }
        foreach ([$coded->names, ...$coded->rows] as $row) {
            $output->writeln(implode(',', array_map(static fn (?string $value): string => match (true) {
                null === $value => '',
                // Places that only say how an engine divides.
                1 === preg_match('/^-?\d+\.\d{10,}$/', $value) => rtrim(rtrim($value, '0'), '.'),
                1 === preg_match('/[",\r\n]|^\s|\s$/', $value) || '' === $value => Quotes::around($value),
                default => $value,
            }, $row)), OutputInterface::OUTPUT_RAW);
        }
    }
}
