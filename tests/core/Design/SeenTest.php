<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\Checks;
use Fasti\Core\Design\Completing;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\DesignFile;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Drawing;
use Fasti\Core\Design\Edit;
use Fasti\Core\Design\EditError;
use Fasti\Core\Design\Edits;
use Fasti\Core\Design\Fault;
use Fasti\Core\Design\Formatting;
use Fasti\Core\Design\Ledger;
use Fasti\Core\Design\Matching;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Pieces;
use Fasti\Core\Design\RulePreview;
use Fasti\Core\Design\Rules;
use Fasti\Core\Design\Taking;
use Fasti\Core\Design\Working;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\Traits;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\TestCase;

/** What is worked out of outlines, at each depth, with its reasons, what is noticed, and what is said of what is wrong, as it was seen to be. */
final class SeenTest extends TestCase
{
    private const MADE = 14;

    public function testWhatFollowsFromADesignAndWhy(): void
    {
        $lines = [];
        foreach (self::designs() as $name => $design) {
            array_push($lines, ...World::lines($name, DesignFile::open($design, Working::of($design))));
        }

        Snapshot::same('designs.worked', $lines);
    }

    public function testWhatIsNoticedOfDesignsAndWhatAnEngineCannotHold(): void
    {
        $lines = [];
        foreach ([...self::designs(), ...self::poor()] as $name => $design) {
            foreach (Checks::of($design, Working::of($design)) as $finding) {
                array_push($lines, ...World::lines("$name noticed", $finding));
            }
            foreach (Traits::ENGINES as $engine) {
                array_push($lines, ...World::lines("$name on $engine", Physical::of($design, $engine)->findings));
            }
        }

        Snapshot::same('designs.noticed', $lines);
    }

    public function testTheScriptsOfDesignsForEveryEngine(): void
    {
        $lines = [];
        foreach (self::poor() + ['lending' => self::lending()] as $name => $design) {
            foreach (array_keys(Dialects::grammars()) as $engine) {
                foreach ([[], ['comments' => false], ['drop' => true]] as $options) {
                    $script = (new DesignScript(Physical::of($design, $engine)))->text(new ScriptOptions(...$options));
                    array_push($lines, "-- $name on $engine ".json_encode($options), ...explode("\n", $script));
                }
            }
        }

        Snapshot::same('designs.scripts', $lines);
    }

    public function testManyDesignsOnEveryEngine(): void
    {
        $lines = [];
        for ($seed = 0; $seed < 120; ++$seed) {
            $design = RandomDesign::of($seed);
            $worked = Working::of($design);
            $lines[] = World::digest("worked $seed", World::lines('worked', DesignFile::open($design, $worked)));
            $lines[] = World::digest("noticed $seed", World::lines('noticed', Checks::of($design, $worked)));
            $lines[] = World::digest("drawn $seed", World::lines('drawn', [Drawing::conceptual($design), Drawing::logical($worked)]));
            $engine = array_keys(Dialects::grammars())[$seed % 5];
            $physical = Physical::of($design, $engine);
            $lines[] = World::digest(
                "$engine $seed",
                [...World::lines('findings', $physical->findings), (new DesignScript($physical))->text(new ScriptOptions())],
            );
            [$taken, $notes] = Taking::of($physical->catalog);
            $lines[] = World::digest("taken $seed", [...$notes, OutlineWriter::design($taken)]);
            $words = preg_split('/(\W+)/u', OutlineWriter::design($design), -1, \PREG_SPLIT_DELIM_CAPTURE) ?: [];
            // A word that is not there, twice there, or another one: what is said of it, and what is read of the rest.
            foreach ([1, 3, 5] as $k) {
                $broken = $words;
                $at = ($seed * 37 + $k * 101) % \count($words);
                $broken[$at] = [1 => '', 3 => $words[$at].$words[$at], 5 => 'and'][$k];
                $outline = Outline::read(implode('', $broken));
                $lines[] = World::digest("broken $seed $k", [
                    ...array_map(static fn (Fault $fault): string => (string) $fault, $outline->faults), ...World::lines('read', $outline->design),
                ]);
            }
        }

        Snapshot::same('designs.many', $lines);
    }

    public function testWhatIsTakenOfEveryTrait(): void
    {
        $lines = [];
        foreach (Traits::recorded() as $name => [$engine]) {
            [$design, $notes] = Taking::of(Traits::live($engine, $name));
            $lines[] = World::digest($name, [...$notes, OutlineWriter::design($design)]);
        }

        Snapshot::same('designs.traits', $lines);
    }

    public function testDrawingsAndLedgersOfDesigns(): void
    {
        $lines = [];
        foreach (\array_slice(self::designs(), 0, 5) as $name => $design) {
            $worked = Working::of($design);
            foreach ([
                'ideas' => Drawing::conceptual($design),
                'tables' => Drawing::logical($worked),
                'made' => Drawing::physical(Physical::of($design)),
            ] as $depth => $drawn) {
                array_push($lines, ...World::lines("$name $depth", $drawn));
            }
            array_push($lines, ...World::lines("$name ledger", Ledger::of(Outline::read(OutlineWriter::design($design)))));
        }

        Snapshot::same('designs.drawn', $lines);
    }

    public function testWhatIsToldOfThePiecesOfADrawing(): void
    {
        $lines = [];
        foreach (\array_slice(self::designs(), 0, 5) as $name => $design) {
            $physical = Physical::of($design);
            foreach (['ideas' => new Pieces($design, Working::of($design)), 'made' => new Pieces($design, $physical->worked, $physical)] as $depth => $pieces) {
                array_push($lines, ...World::lines("$name $depth tablets", $pieces->tablets()), ...World::lines("$name $depth lines", $pieces->lines()));
            }
        }

        Snapshot::same('designs.pieces', $lines);
    }

    public function testEveryRuleSetOtherwise(): void
    {
        $text = self::text();
        $lines = [];
        foreach (Rules::ALL as $rule => [, $settings]) {
            foreach (array_keys($settings) as $setting) {
                $edited = Edits::of($text, new Edit('set rule', '', $rule, (string) $setting));
                $after = Outline::read($edited);
                self::assertSame([], array_map(strval(...), $after->faults), $edited);
                array_push($lines, ...World::lines("$rule $setting", RulePreview::between(self::lending(), $after->design)));
            }
        }

        Snapshot::same('designs.rules', $lines);
    }

    public function testWhatIsSaidOfWhatIsNotUnderstood(): void
    {
        $lines = [];
        foreach (self::broken() as $text) {
            $outline = Outline::read($text);
            $lines[] = '> '.addcslashes($text, "\n");
            array_push($lines, ...array_map(static fn (Fault $fault): string => (string) $fault, $outline->faults));
            array_push($lines, ...World::lines('read', $outline->design), ...World::lines('usual', explode("\n", Formatting::of($text))));
        }

        Snapshot::same('designs.broken', $lines);
    }

    public function testWhatIsOfferedAtEveryPlaceOfAnOutline(): void
    {
        $text = self::text();
        $lines = [];
        foreach (explode("\n", $text) as $i => $line) {
            foreach (array_unique([0, 2, intdiv(mb_strlen($line), 2), mb_strlen($line)]) as $column) {
                array_push($lines, ...World::lines("line $i, column $column", Completing::at($text, $i, min($column, mb_strlen($line)))));
            }
        }

        Snapshot::same('designs.completed', $lines);
    }

    public function testEveryEditOfAnOutline(): void
    {
        $text = self::text();
        $lines = [];
        foreach ([
            ['add thing', '', 'Courier', 'one row per person who brings kits'], ['add thing', '', 'School', ''], ['rename thing', 'Kit', 'Box', ''],
            ['rename thing', 'No such', 'Box', ''], [
                'set grain',
                'Kit',
                '',
                'one row per box',
            ], ['set grain', 'Teacher', '', ''], ['remove thing', 'Teacher', '', ''],
            [
                'add attribute',
                'Loan',
                '',
                'fee, number from 0 to 99.50',
            ], ['add attribute', 'Loan', '', 'due on, date'], ['set attribute', 'Kit', 'state', 'state, text up to 9'],
            ['rename attribute', 'Loan', 'due on', 'to be back on'], ['rename attribute', 'School', 'name', 'town'], ['remove attribute', 'School', 'town', ''],
            ['move attribute', 'Loan', 'returned on', '0'], [
                'add sentence',
                '',
                '',
                'A courier brings any number of kits.',
            ], ['say', 'School', '', 'looked up by town'],
            ['unsay', 'School', '', 'told apart by'], ['add view', 'Loan', 'Open loans', 'lent on, due on'], ['ask', 'kit', '', 'Who weighs it?'],
            [
                'answer',
                'Does a school that closes keep its loans?',
                '',
                'Yes.',
            ], ['set rule', '', 'no such', 'x'], ['set rule', '', 'keys', 'x'], ['fly away', '', '', ''],
        ] as [$kind, $of, $what, $said]) {
            try {
                $after = Edits::of($text, new Edit($kind, $of, $what, $said));
                $was = explode("\n", $text);
                $is = explode("\n", $after);
                $lines[] = "$kind $of $what $said:";
                array_push($lines, ...array_map(static fn (string $line): string => "- $line", array_values(array_diff($was, $is))));
                array_push($lines, ...array_map(static fn (string $line): string => "+ $line", array_values(array_diff($is, $was))));
                $lines[] = 'order '.md5(implode("\n", array_intersect($is, $was)));
            } catch (EditError $e) {
                $lines[] = "$kind $of $what $said is refused: ".$e->getMessage();
            }
        }

        Snapshot::same('designs.edits', $lines);
    }

    public function testWhatIsTakenFromSources(): void
    {
        $lines = [];
        foreach ([
            'demo' => World::demo(),
            'mart' => World::mart(),
            'museum' => World::made('museum'),
            'clinic' => World::made('clinic', 3),
        ] as $name => $catalog) {
            [$design, $notes] = Taking::of($catalog);
            array_push($lines, "# $name", ...$notes);
            array_push($lines, ...explode("\n", OutlineWriter::design($design)));
        }

        Snapshot::same('designs.taken', $lines);
    }

    public function testPlannedChangesInWords(): void
    {
        $lines = [];
        foreach (Traits::ENGINES as $engine) {
            for ($seed = 900; $seed < 912; ++$seed) {
                $first = Physical::of(RandomDesign::of($seed), $engine, [], Traits::SCHEMAS[$engine]);
                $second = Physical::of(Mutation::of($seed, RandomDesign::of($seed), $first), $engine, [], Traits::SCHEMAS[$engine]);
                $changes = Changes::between(
                    $first->catalog,
                    $second->catalog,
                    Matching::of($first->catalog, $second->catalog, $second),
                    new ScriptOptions(places: false),
                );
                array_push($lines, "# $engine, pair $seed", ...explode("\n", $changes->inWords()));
                array_push($lines, ...World::lines('step', $changes->steps), ...World::lines('warning', $changes->warnings()));
                self::assertNotSame([], OpenForm::of($second->catalog));
            }
        }

        Snapshot::same('designs.changes', $lines);
    }

    private static function text(): string
    {
        return (string) file_get_contents(\dirname(__DIR__, 3).'/demo/lending.outline.txt');
    }

    private static function lending(): Design
    {
        return Outline::read(self::text())->design;
    }

    /** @return array<string, Design> */
    private static function designs(): array
    {
        $found = ['lending' => self::lending()];
        for ($seed = 0; $seed < self::MADE; ++$seed) {
            $found["made $seed"] = RandomDesign::of($seed);
        }

        return $found;
    }

    /** @return array<string, Design> with something to notice */
    private static function poor(): array
    {
        $found = [];
        foreach (self::broken() as $i => $text) {
            $found["poor $i"] = Outline::read($text)->design;
        }

        return $found;
    }

    /** @return list<string> */
    private static function broken(): array
    {
        return [
            '', 'Loan', "Loan\n  due", "Loan\n  due, date of birth", "Loan\n  due, date\n  due, date", "Loan\n  due, date\nLoan\n  fee, number",
            "Loan\n  fee, number from 9 to 0", "Loan\n  fee, number from 0 to 99,999,999,999,999,999,999.99, measured in crowns, required, unique",
            "Loan, one row per loan\n  told apart by nothing", 'A loan is of one kit.', "Loan\n\nA loan is of any number of kits; a kit is in exactly "
                .'one loan.',
            "Kit\n  label, text of 4, required\n\nKit\n\nA kit holds 12 to "
                .'1 kits.', "School\n  name, text\n\nA school has any number of schools; a school is in at most one school.",
            "Loan\n  due on, date, not before lent on", "Loan\n  state, one of ready, lent, ready; broken "
                .'unless given', 'Design "x', "Design \"x\"\n  for Nothing",
            "Loan\n  note, text up to 0", "Loan\n  note, text up to 70000, required, unique", "Order\n  select, text\n  group, number\n  told apart by "
                .'select and group',
            "A\n  b, text\n\nB\n  a, text\n\nAn a has exactly one b; a b has exactly one a.", "Loan\n  due, date, today unless given, yesterday unless given",
            "List \"flags\", G means good, S means suspect\n\nReading\n  flag, one of list flags\n  value, number, measured in m³/s",
            "Loan\n  picture, file\n  place, point\n  at, moment\n  day, day of "
                .'the week', "Loan\n\tdue, date\n    fee, number\n  x", 'Ask "Why', 'Statement "x", $$SELECT 1',
            "View \"Open loans\", of loan, shows due\n\nLoan\n  due, date", str_repeat('Very long name of a thing ', 8)."\n  ".str_repeat('x', 90).', text',
            "Person\n  name, text up to 80, personal\n\nTeacher, a kind of person\n  room, text of 3\n\nPupil, a kind of person\n  class, whole number",
        ];
    }
}
