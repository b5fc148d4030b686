<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Check;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\DataCheck;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\Findings;
use Fasti\Finding\Told;
use Fasti\Source\SourceStore;
use Fasti\Source\Targets;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/**
 * For people and for build servers: 0 when nothing of the asked severity was found, 1 when something was, 2 when it could not be checked.
 */
#[AsCommand('fasti:check', 'Says what stands out in a source: in its structure, its data, or what the register keeps about it')]
final readonly class CheckCommand
{
    /**
     * @param iterable<CatalogCheck> $ofCatalogs
     * @param iterable<DataCheck>    $ofData
     */
    public function __construct(
        private TargetLook $look,
        private SourceStore $store,
        private Findings $findings,
        #[AutowireIterator('fasti.catalog_check')]
        private iterable $ofCatalogs,
        #[AutowireIterator('fasti.data_check')]
        private iterable $ofData,
    ) {
    }

    public function __invoke(
        OutputInterface $output,
        #[Argument(Targets::HELP)] string $target = '',
        #[Option('A source of the register, by its name, in place of a target: what is kept about it and not set aside')] string $source = '',
        #[Option('The least severity that makes the command end with 1: note, doubt or fault')] string $failOn = 'fault',
        #[Option('text, json or junit')] string $format = 'text',
        #[Option('Profile the data too')] bool $data = false,
        #[Option(Targets::DIALECTS)] string $dialect = '',
    ): int {
        $errors = $output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output;
        $least = Severity::tryFrom($failOn);
        $wrong = match (true) {
            null === $least => 'The severity is note, doubt or fault.',
            !\in_array($format, ['text', 'json', 'junit'], true) => 'The format is text, json or junit.',
            ('' === $target) === ('' === $source) => 'Name a target, or a source of the register with --source=NAME.',
            default => '',
        };
        if ('' !== $wrong) {
            $errors->writeln($wrong);

            return 2;
        }
        $notes = [];
        try {
            $looked = '' === $source ? $this->look->at($target, $dialect, $data) : null;
            $found = null === $looked ? $this->kept($source) : $this->looked($looked);
            $notes = $looked->notes ?? [];
        } catch (SourceError $e) {
            $errors->writeln(OutputFormatter::escape($e->inWords()));

            return 2;
        }
        usort($found, static fn (Told $a, Told $b): int => Severity::from($b->severity)->rank() <=> Severity::from($a->severity)->rank());
        $output->writeln(match ($format) {
            'json' => json_encode(
                ['findings' => $found],
                \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRETTY_PRINT,
            ),
            'junit' => $this->junit($found, $least),
            default => self::text($found),
        }, OutputInterface::OUTPUT_RAW);
        foreach ($notes as $note) {
            $errors->writeln(OutputFormatter::escape($note));
        }
        $grave = array_filter($found, static fn (Told $one): bool => Severity::from($one->severity)->rank() >= $least->rank());

        return [] === $grave ? Command::SUCCESS : 1;
    }

    /** @return list<Told> */
    private function looked(Looked $looked): array
    {
        $found = [];
        foreach ($this->ofCatalogs as $check) {
            array_push($found, ...self::grouped($check, $check->of($looked->catalog)));
        }
        $dialect = Dialects::ofCatalog($looked->catalog);
        foreach ([] === $looked->profiles ? [] : $this->ofData as $check) {
            $of = [];
            foreach ($looked->profiles as $i => $profile) {
                array_push($of, ...$check->of($looked->catalog->tables[$i], $profile, $dialect));
            }
            array_push($found, ...self::grouped($check, $of));
        }

        return $found;
    }

    /**
     * @param iterable<\Fasti\Core\Finding\Finding> $findings
     *
     * @return list<Told>
     */
    private static function grouped(Check $check, iterable $findings): array
    {
        $groups = [];
        foreach ($findings as $finding) {
            $groups[$finding->group][] = $finding;
        }
        $found = [];
        foreach ($groups as $group => $of) {
            $found[] = new Told(
                $check->name(),
                $check->severity()->value,
                array_map(static fn ($one): array => self::where($one->place, $one->field), $of),
                1 === \count($of) ? $of[0]->title : $check->title((string) $group, $of[0]->title, \count($of)),
                $check->why(),
                $check->mend(),
            );
        }

        return $found;
    }

    /** @return array{schema: string, table: string, column: ?string} */
    private static function where(Place $place, ?string $column): array
    {
        return ['schema' => $place->schema, 'table' => $place->name, 'column' => $column];
    }

    /**
     * @return list<Told>
     *
     * @throws SourceError
     */
    private function kept(string $name): array
    {
        foreach ($this->store->all() as $id => $source) {
            if ($source->name === $name) {
                return $this->findings->told($id);
            }
        }
        throw new SourceError(\sprintf('The register has no source “%s”.', $name), 'Its sources: '.implode(', ', array_column($this->store->all(),
            'name')).'.');
    }

    /** @param list<Told> $found */
    private static function text(array $found): string
    {
        $lines = [];
        foreach ($found as $one) {
            $lines[] = \sprintf('%-5s  %s  (%s)', $one->severity, $one->what, $one->check);
            foreach ($one->where as $where) {
                $lines[] = '       '.new Place($where['schema'], $where['table']).(null === $where['column'] ? '' : '.'.$where['column']);
            }
            $lines[] = '       '.$one->why.' '.$one->mend;
        }
        $lines[] = Amount::of(\count($found), 'finding');

        return implode("\n", $lines);
    }

    /**
     * One test for each check that was run; what is of the asked severity has failed.
     *
     * @param list<Told> $found
     */
    private function junit(array $found, Severity $least): string
    {
        $tests = array_fill_keys(array_map(static fn (Check $check): string => $check->name(), [...$this->ofCatalogs]), []);
        foreach ($found as $one) {
            $tests[$one->check][] = $one;
        }
        $xml = new \XMLWriter();
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElement('testsuites');
        $xml->startElement('testsuite');
        $failed = array_filter($tests, static fn (array $of): bool => [] !== array_filter($of,
            static fn (Told $one): bool => Severity::from($one->severity)->rank() >= $least->rank()));
        foreach (['name' => 'fasti:check', 'tests' => \count($tests), 'failures' => \count($failed)] as $key => $value) {
            $xml->writeAttribute($key, (string) $value);
        }
        foreach ($tests as $name => $of) {
            $xml->startElement('testcase');
            $xml->writeAttribute('name', $name);
            $xml->writeAttribute('classname', 'fasti');
            foreach ($of as $one) {
                $grave = Severity::from($one->severity)->rank() >= $least->rank();
                $xml->startElement($grave ? 'failure' : 'system-out');
                if ($grave) {
                    $xml->writeAttribute('type', $one->severity);
                }
                if ($grave) {
                    $xml->writeAttribute('message', self::clean($one->what));
                }
                $xml->text(self::clean(self::text([$one])));
                $xml->endElement();
            }
            $xml->endElement();
        }
        $xml->endElement();
        $xml->endElement();

        return trim($xml->outputMemory());
    }

    /** XML 1.0 has no place for most control characters. */
    private static function clean(string $text): string
    {
        return preg_replace('/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u', '·', mb_scrub($text)) ?? '';
    }
}
