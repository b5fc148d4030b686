<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Said;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Script\ScriptReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Term\Recogniser;

/** Measures how many drafts are made, how many of them are right, and how fast; and how fast terms are found. */
final readonly class TextBench
{
    private const FOLDER = __DIR__.'/texts';
    private const WORDS = ['gauge', 'board', 'reach', 'river', 'water', 'level', 'flow', 'sample', 'station', 'barrier', 'fish', 'weir', 'culvert', 'land',
        'owner', 'visit',
        'team', 'lab', 'method', 'limit', 'flag', 'value', 'unit', 'season', 'species', 'count', 'alert', 'rule', 'tide', 'bank', 'bridge', 'pool'];

    /**
     * @param \Closure(string, string, string, float, float, bool=): void $say
     * @param \Closure(string): float                                     $inOwnProcess peak memory of a job, in MiB
     */
    public function __construct(private \Closure $say, private \Closure $inOwnProcess, private JoinBench $joins)
    {
    }

    public function texts(): void
    {
        $tenths = [];
        [$known] = $this->joins->demo();
        $tables = array_values(array_filter($known->catalog->tables, static fn ($table): bool => 'fasti_bench_fieldwork' === $table->schema));
        $demo = new Catalog('mariadb', '', $tables);
        $rows = Session::rows(Session::target('fasti_bench_fieldwork'));
        $profiles = [];
        foreach ($tables as $i => $table) {
            if (!$table->kind->isView()) {
                $profiles[$i] = (new SqlProfiler($rows, Dialects::of('mariadb')))->profile($table, [], [], new SilentProgress());
            }
        }
        $this->measure('the demo', $demo, $profiles, self::saidOfDemo($demo), 'fieldwork', 60, 80, $tenths);
        $script = new ScriptReader(self::FOLDER.'/playhouse.sql', Dialects::of('mariadb')->grammar());
        $playhouse = $script->read(new Choice(), new SilentProgress());
        $this->measure('a playhouse, which rules were never tuned to', $playhouse, [], self::saidOfPlayhouse($playhouse), 'playhouse', 50, 75, $tenths);
        ksort($tenths);
        foreach ($tenths as $tenth => $of) {
            $said = array_sum(array_column($of, 0)) / \count($of);
            $right = array_sum(array_column($of, 1)) / \count($of);
            printf("    %-42s %8.0f %% right of %d\n", \sprintf('those that say %.0f %% on average', 100 * $said), 100 * $right, \count($of));
        }
        $time = self::seconds(self::job(...));
        ($this->say)('drafts for 2,000 tables, 40,000 fields, s', \sprintf('%.1f s', $time), '', $time, 10);
        $peak = ($this->inOwnProcess)('drafts');
        ($this->say)('  its memory, MiB', \sprintf('%d MiB', $peak), '', $peak, 512);
        $this->terms();
    }

    /** 2,000 tables with 20 fields each, a tenth of them described. */
    public static function job(): void
    {
        mt_srand(9);
        $word = static fn (): string => self::WORDS[mt_rand(0, 31)];
        $types = ['varchar(60)', 'int(11)', 'decimal(10,2)', 'datetime', 'char(3)', 'tinyint(1)', 'date'];
        $said = $tables = [];
        foreach (JoinBench::large()->tables as $i => $table) {
            $columns = $table->columns;
            for ($c = \count($columns); $c < 20; ++$c) {
                $columns[] = new Column($word().'_'.$word().'_'.$c, $types[mt_rand(0, 6)], 0 === $c % 2, null, 0 === $c % 5 ? 'what it is' : '');
            }
            $tables[] = $table->with(columns: $columns);
            foreach ($columns as $c => $column) {
                if (0 === ($i + $c) % 10) {
                    $said[$i][$column->name] = new Said('Name of '.$column->name, 'What '.$word().' '.$word().' says.');
                }
            }
        }
        $material = Material::ofCatalog(new Catalog('mariadb', '', $tables), [], [], $said);
        $drafts = new Drafts();
        foreach ($tables as $i => $table) {
            $drafts->ofEntry($material->entry($i));
            foreach ($table->columns as $column) {
                $drafts->ofField($material->field($i, $column));
            }
        }
    }

    /**
     * @param array<int, TableProfile>                                   $profiles
     * @param array<int, array<string, Said>>                            $said
     * @param array<int, list<array{float, bool}>>                       $tenths   confidence and whether it was right, by its tenth
     */
    private function measure(string $what, Catalog $catalog, array $profiles, array $said, string $expected, float $drafted, float $right, array &$tenths): void
    {
        $material = Material::ofCatalog($catalog, (new Proposals())->of($catalog), $profiles, $said);
        $drafts = new Drafts();
        $expects = self::expected($expected);
        $open = $with = $held = $good = 0;
        foreach ($catalog->tables as $i => $table) {
            foreach ($table->columns as $column) {
                $field = $material->field($i, $column);
                if ('' !== $field->said->meaning) {
                    continue;
                }
                ++$open;
                $made = $drafts->ofField($field);
                $with += isset($made['meaning']) ? 1 : 0;
                [$names, $words] = $expects[$table->name][$column->name] ?? [null, null];
                foreach (['businessName' => $names, 'meaning' => $words] as $property => $wants) {
                    if (null !== $wants && isset($made[$property])) {
                        ++$held;
                        $fits = self::fits($made[$property][0], $wants);
                        $good += $fits ? 1 : 0;
                        $tenths[(int) (10 * $made[$property][0]->confidence)][] = [$made[$property][0]->confidence, $fits];
                    }
                }
            }
        }
        ($this->say)("drafts for $what", "$with of $open", 'fields', 100 * $with / max(1, $open), $drafted, true);
        ($this->say)('  of those, acceptable as they stand', "$good of $held", 'texts', 100 * $good / max(1, $held), $right, true);
    }

    /** @param list<list<string>> $wants a name: the names that are right; a meaning: words, one of each */
    private static function fits(Draft $draft, array $wants): bool
    {
        $text = mb_strtolower($draft->text);
        if ('businessName' === $draft->property) {
            return \in_array($text, $wants[0], true);
        }
        foreach ($wants as $words) {
            if ([] === array_filter($words, static fn (string $word): bool => str_contains($text, $word))) {
                return false;
            }
        }

        return true;
    }

    /** @return array<string, array<string, array{list<list<string>>, list<list<string>>|null}>> entry → field → names, words of the meaning or null */
    private static function expected(string $name): array
    {
        $expected = [];
        foreach (self::lines($name.'.tsv') as $cells) {
            $lists = array_map(static fn (string $cell): array => explode('|', mb_strtolower($cell)), \array_slice($cells, 2));
            $words = \array_slice($lists, 1);
            $expected[$cells[0]][$cells[1]] = [[$lists[0]], [['-']] === $words || [] === $words ? null : $words];
        }

        return $expected;
    }

    /** @return array<int, array<string, Said>> */
    private static function saidOfDemo(Catalog $catalog): array
    {
        /** @var array{entries: array<string, array<string, mixed>>} $texts */
        $texts = require \dirname(__DIR__).'/demo/said.php';
        $said = [];
        foreach ($catalog->tables as $i => $table) {
            foreach ((array) ($texts['entries'][$table->name]['fields'] ?? []) as $field => $pair) {
                [$name, $meaning] = array_map(static fn (mixed $text): string => \is_string($text) ? $text : '', array_values((array) $pair)) + ['', ''];
                $said[$i][(string) $field] = new Said($name, $meaning);
            }
        }

        return $said;
    }

    /** @return array<int, array<string, Said>> */
    private static function saidOfPlayhouse(Catalog $catalog): array
    {
        $numbers = array_flip(array_map(static fn ($table): string => $table->name, $catalog->tables));
        $said = [];
        foreach (self::lines('playhouse.said.tsv') as $cells) {
            $said[$numbers[$cells[0]]][$cells[1]] = new Said($cells[2] ?? '', $cells[3] ?? '');
        }

        return $said;
    }

    /** @return \Generator<list<string>> */
    private static function lines(string $file): \Generator
    {
        foreach (file(self::FOLDER.'/'.$file, \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [] as $line) {
            if (!str_starts_with($line, '#')) {
                yield explode("\t", $line);
            }
        }
    }

    private function terms(): void
    {
        mt_srand(3);
        $word = static fn (): string => self::WORDS[mt_rand(0, 31)];
        $terms = $texts = [];
        for ($i = 1; $i <= 2000; ++$i) {
            $terms[$i] = [$word().' '.$word().(0 === $i % 3 ? ' '.$word() : ''), 'term'.$i];
        }
        for ($i = 0; $i < 10000; ++$i) {
            $texts[] = 'What the '.$word().' '.$word().' says of the
                '.$word().'s at '.$word().' '.$word().' '.$word().', in the unit of its '.$word().'. Empty while no term'.mt_rand(1,
                2000).' is known; '.$word().'.';
        }
        $found = 0;
        $time = self::seconds(static function () use ($terms, $texts, &$found): void {
            $recogniser = new Recogniser($terms);
            foreach ($texts as $text) {
                $found += \count($recogniser->in($text));
            }
        });
        ($this->say)('2,000 terms in 10,000 meanings, s', \sprintf('%.2f s', $time), number_format($found).' found', $time, 0.6);
    }

    private static function seconds(callable $work): float
    {
        $start = hrtime(true);
        $work();

        return (hrtime(true) - $start) / 1e9;
    }
}
