<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Join\CatalogLinks;
use Fasti\Core\Join\Kinds;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Chart;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\FieldOffers;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Hierarchies;
use Fasti\Core\Model\Hierarchy;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Matrix;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelDataChecks;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\Proposal;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use Fasti\Core\Model\Unanswerable;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\TestCase;

/** What is worked out of made-up models: what goes with what, what is refused and why, what is noticed, what is offered, as it was seen to be. */
final class SeenTest extends TestCase
{
    private const MODELS = 10;

    public function testWhatGoesWithWhatAndWhatIsNoticed(): void
    {
        $lines = [];
        foreach (self::models() as $name => $ground) {
            $matrix = new Matrix($ground);
            foreach ($ground->model->measures as $measure) {
                foreach ($matrix->columns() as $role) {
                    $of = $role instanceof Role ? $role->name : $role;
                    $cell = $matrix->cell($measure, $of);
                    $lines[] = "$name matrix $measure->name by $of: $cell->can {$cell->rank()} $cell->why";
                }
            }
            foreach ((new ModelChecks($ground))->all() as $one) {
                array_push($lines, ...World::lines("$name noticed", $one));
            }
        }

        Snapshot::same('models.matrix', $lines);
    }

    public function testWhatIsOfferedOfFields(): void
    {
        $lines = [];
        foreach (self::models() as $name => $ground) {
            foreach ($ground->model->roles as $role) {
                array_push($lines, ...World::lines("$name offers of $role->name", (new FieldOffers($ground))->of($role->name)));
            }
        }

        Snapshot::same('models.offers', $lines);
    }

    public function testWhatIsRefusedAndHowTheRestIsToBeAsked(): void
    {
        $lines = [];
        for ($seed = 1; $seed <= self::MODELS; ++$seed) {
            $made = new RandomModel($seed);
            for ($n = 0; $n < 8; ++$n) {
                $trial = $made->trial();
                $of = "model $seed, trial $n";
                $lines[] = "$of: ".TrialWords::of($trial);
                try {
                    $plan = Trials::plan($made, $trial, 'sqlite');
                    array_push($lines, ...World::lines($of, [
                        $plan->columns, $plan->facts, $plan->reads, $plan->compositions, array_column($plan->lines, 'does'),
                    ]));
                } catch (Unanswerable $e) {
                    array_push($lines, ...World::lines("$of is refused", [$e->reasons, $e->offers]));
                }
            }
        }

        Snapshot::same('models.trials', $lines);
    }

    public function testAnswersAndTheirCharts(): void
    {
        $lines = [];
        foreach ([
            new Trial(['individuals'], ['kind of species']), new Trial(
                ['individuals', 'sightings'],
                ['year of day', 'month of day'],
            ), new Trial(['individuals']),
            new Trial(['stock'], ['name of reach']), new Trial(['per sighting'], ['date of day']), new Trial(['individuals'], ['name of group']),
        ] as $i => $trial) {
            try {
                $answer = (new Asking(River::rows()))->answer(River::planner()->plan($trial));
            } catch (Unanswerable|ModelError $e) {
                $lines[] = "trial $i: ".$e->getMessage();
                continue;
            }
            array_push($lines, ...World::lines("trial $i", ['seconds' => null] + get_object_vars($answer)), ...explode('><', "trial $i ".Chart::of($answer)));
        }

        Snapshot::same('models.answers', $lines);
    }

    public function testWhatTheDataSaysOfTheRiver(): void
    {
        $ground = River::ground(River::model());
        $lines = [];
        foreach ((new ModelDataChecks($ground, River::rows()))->all(new SilentProgress()) as $one) {
            array_push($lines, ...World::lines('noticed', $one));
        }
        foreach ($ground->model->roles as $role) {
            array_push($lines, ...World::lines("hierarchies of $role->name", (new Hierarchies($ground, River::rows()))->of($role->name)));
        }

        Snapshot::same('models.river.data', $lines);
    }

    public function testEveryEditOfAModel(): void
    {
        $model = River::model();
        $key = $model->joins[0]->key();
        $lines = [];
        foreach ([
            'a measure comes' => static fn (): Model => Edits::measure(
                $model,
                '',
                new Measure('weight', new Sum(), 'sighting', 'weight_g'),
            ),
            'a measure of the same name' => static fn (): Model => Edits::measure($model, '', $model->measures[0]),
            'a measure that another needs goes' => static fn (): Model => Edits::withoutMeasure($model, 'individuals'),
            'an attribute comes' => static fn (): Model => Edits::attribute($model, 'species', '', new Attribute('latin', 'UPPER(name)')),
            'an attribute gets another name' => static fn (): Model => Edits::attribute($model, 'day', 'year', new Attribute('calendar year', 'year')),
            'an attribute goes' => static fn (): Model => Edits::withoutAttribute($model, 'day', 'month'),
            'a role goes' => static fn (): Model => Edits::withoutRole($model, 'species'),
            'a join goes' => static fn (): Model => Edits::withoutJoin($model, $key),
            'a role of its own' => static fn (): Model => Edits::ownRole($model, $key, 'day by itself'),
            'a route is chosen' => static fn (): Model => Edits::choose($model, new Choice('sighting', 'reach', [$key])),
            'a hierarchy comes' => static fn (): Model => Edits::hierarchy(
                $model,
                new Hierarchy('calendar', [new Level('day', 'year'), new Level('day', 'month')]),
            ),
            'a hierarchy that is not there goes' => static fn (): Model => Edits::withoutHierarchy($model, 'no such'),
            'an entry is called otherwise' => static fn (): Model => Edits::entryMoved($model, new Place('', 'species'), new Place('', 'kind')),
            'fields are called otherwise' => static fn (): Model => Edits::fieldsRenamed($model, new Place('', 'sighting'), ['individuals' => 'animals']),
        ] as $name => $edit) {
            try {
                $after = $edit();
                foreach (Edits::between($model, $after) as $words) {
                    $lines[] = "$name: ".(\is_string($words) ? $words : (string) json_encode($words));
                }
                array_push($lines, ...array_map(static fn (string $line): string => "$name $line", array_diff(
                    explode("\n", ModelFile::json($after)),
                    explode("\n", ModelFile::json($model)),
                )));
                self::assertEquals($after, ModelFile::read(ModelFile::json($after)), $name);
            } catch (ModelError $e) {
                $lines[] = "$name is refused: ".$e->getMessage();
            }
        }

        Snapshot::same('models.edits', $lines);
    }

    public function testWhatIsProposedOfTheMart(): void
    {
        $catalog = World::mart();
        $links = CatalogLinks::of($catalog);
        $kinds = $why = [];
        foreach ((new Kinds($catalog, $links))->all() as $i => $kind) {
            $kinds[$i] = $kind->kind;
            $why[$i] = $kind->reason;
        }
        $proposal = new Proposal($catalog, $links, $kinds, $why, []);
        $lines = World::lines('proposed', $proposal->of('Mart', array_keys($catalog->tables)));
        foreach (array_keys($catalog->tables) as $i) {
            array_push($lines, ...World::lines("around {$catalog->tables[$i]->name}", $proposal->around($i)));
        }

        Snapshot::same('models.proposed', $lines);
    }

    /** @return iterable<string, Ground> */
    private static function models(): iterable
    {
        yield 'river' => River::ground(River::model());
        for ($seed = 1; $seed <= self::MODELS; ++$seed) {
            $made = new RandomModel($seed);
            yield "model $seed" => new Ground($made->model, $made->catalog('sqlite'));
        }
    }
}
