<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\CatalogLinks;
use Fasti\Core\Join\JoinRole;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Join\Route;
use Fasti\Core\Join\Routes;
use Fasti\Core\Join\RouteSql;
use Fasti\Core\Join\Sentence;
use Fasti\Core\Join\Step;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Naming;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('fasti:route', 'Says how two tables are joined, as SQL, as sentences or as JSON')]
final readonly class RouteCommand
{
    public function __construct(private Targets $targets)
    {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target,
        #[Argument('The table to start from: its name, or schema.name')] string $from,
        #[Argument('The table to reach')] string $to,
        #[Option('sql, text or json')] string $format = 'text',
        #[Option('Go by declared foreign keys only, without joins that are proposed by names and types')] bool $declared = false,
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        if (!\in_array($format, ['sql', 'text', 'json'], true)) {
            $errors->writeln('The format is sql, text or json.');

            return Command::INVALID;
        }
        try {
            $catalog = $this->targets->catalog($target, $dialect);
            $start = self::found($catalog, $from);
            $end = self::found($catalog, $to);
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return Command::INVALID;
        }
        $places = array_map(static fn ($table): Place => $table->place(), $catalog->tables);
        $routes = new Routes(CatalogLinks::of($catalog, $declared ? [] : (new Proposals())->of($catalog)));
        $found = $routes->between($start, $end);
        $sql = new RouteSql(Dialects::ofCatalog($catalog), $places);
        if ('json' === $format) {
            $output->writeln(json_encode(
                ['routes' => array_map(static fn (Route $route): array => self::json($route, $places, $sql), $found)],
                \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT
                    | \JSON_PRESERVE_ZERO_FRACTION,
            ), OutputInterface::OUTPUT_RAW);
        } elseif ([] !== $found) {
            foreach ('sql' === $format ? [$sql->select($found[0]).';'] : self::text($found, $places, $sql) as $line) {
                $output->writeln($line, OutputInterface::OUTPUT_RAW);
            }
        }
        if ([] === $found) {
            foreach (self::none($routes, $start, $end, $places) as $line) {
                $errors->writeln(OutputFormatter::escape($line));
            }

            return Command::FAILURE;
        }

        return Command::SUCCESS;
    }

    /** @throws SourceError */
    private static function found(Catalog $catalog, string $name): int
    {
        $place = Place::parse($name);
        $found = [];
        foreach ($catalog->tables as $i => $table) {
            if ($table->name === $name || null !== $place && $table->name === $place->name && \in_array($place->schema, ['', $table->schema], true)) {
                $found[] = $i;
            }
        }
        if ([] === $found) {
            foreach ($catalog->tables as $i => $table) {
                if (0 === strcasecmp($table->name, $name)) {
                    $found[] = $i;
                }
            }
        }

        return match (\count($found)) {
            0 => throw new SourceError(\sprintf('There is no table “%s”.', $name), 'fasti:survey lists what there is.'),
            1 => $found[0],
            default => throw new SourceError(
                \sprintf('There is “%s” in %s.', $name, implode(' and ', array_map(static fn (int $i): string => $catalog->tables[$i]->schema, $found))),
                'Name it with its schema, as in schema.name.',
            ),
        };
    }

    /**
     * @param list<Place> $places
     *
     * @return array<string, mixed>
     */
    private static function json(Route $route, array $places, RouteSql $sql): array
    {
        $joins = array_map(static function (Step $step) use ($places, $sql): array {
            [$near, $far] = $step->forth ? [0, 1] : [1, 0];
            $end = static fn (int $node, int $side): array => [
                'schema' => $places[$node]->schema,
                'table' => $places[$node]->name,
                'columns' => array_column($step->link->pairs, $side),
            ];

            return [
                'from' => $end($step->from(), $near), 'to' => $end($step->to(), $far),
                'sentence' => (string) self::sentence($step, $places),
                'certainty' => round($step->link->certainty, 3), 'multiplies' => $step->multiplies(), 'drops' => $step->drops(),
                'where' => $sql->where($step->link),
            ];
        }, $route->steps);

        return [
            'joins' => $joins,
            'multiplies' => $route->multiplies(),
            'drops' => $route->drops(),
            'certainty' => round($route->certainty(), 3),
            'sql' => $sql->select($route),
        ];
    }

    /** @param list<Place> $places */
    private static function sentence(Step $step, array $places): Sentence
    {
        $from = Naming::asName($places[$step->link->from]->name);
        $to = Naming::asName($places[$step->link->to]->name);

        $role = JoinRole::of($step->link->pairs, $places[$step->link->to]->name);

        return $step->forth ? Sentence::forth($from, $to, $step->link->cardinality, role: $role)
            : Sentence::back($from, $to, $step->link->cardinality, role: $role);
    }

    /**
     * @param list<Route> $routes
     * @param list<Place> $places
     *
     * @return iterable<string>
     */
    private static function text(array $routes, array $places, RouteSql $sql): iterable
    {
        foreach ($routes as $i => $route) {
            yield \sprintf('%d. %s', $i + 1, implode(' → ', array_map(static fn (int $node): string => $places[$node]->name, $route->nodes())));
            foreach ($route->steps as $step) {
                $warnings = array_filter([
                    $step->multiplies() ? 'rows multiply here' : '',
                    $step->drops() ? 'rows that find nothing drop out here' : '',
                    $step->link->certainty < 1.0 ? \sprintf('proposed, %.2f', $step->link->certainty) : '',
                ]);
                yield '   '.self::sentence($step, $places).([] === $warnings ? '' : '  ('.implode('; ', $warnings).')');
            }
            if (0 === $i) {
                yield '';
                foreach (explode("\n", $sql->select($route)) as $line) {
                    yield '   '.$line;
                }
            }
            yield '';
        }
    }

    /**
     * @param list<Place> $places
     *
     * @return iterable<string>
     */
    private static function none(Routes $routes, int $start, int $end, array $places): iterable
    {
        if ($start === $end) {
            yield \sprintf('%s is one table: there is nothing to join.', $places[$start]);

            return;
        }
        yield \sprintf('No chain of at most %d joins leads from %s to %s.', Routes::LONGEST, $places[$start], $places[$end]);
        foreach ([$start, $end] as $node) {
            $near = array_map(static fn (int $other): string => (string) $places[$other], $routes->near($node, 5));
            yield [] === $near ? \sprintf('Nothing is joined to %s.', $places[$node]) : \sprintf('Nearest to %s: %s.', $places[$node], implode(', ', $near));
        }
    }
}
