<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Fasti\Account\Role;
use Fasti\Core\Model\ModelFile;
use Fasti\Model\Editing;
use Fasti\Model\KeptModel;
use Fasti\Model\Models;

/** Models: begun, changed part by part, asked, kept, looked through, given away. */
final class ModelsDayTest extends DayTestCase
{
    private function river(): KeptModel
    {
        $model = ModelFile::read((string) file_get_contents(\dirname(__DIR__, 3).'/demo/river-life.json'));
        $kept = self::get(Editing::class)->begin($this->oona, 'River life', 'what lives there', $this->mart, $model);
        $kept->shared = true;
        self::get(Models::class)->save();

        return $kept;
    }

    public function testAModelIsBegun(): void
    {
        $fact = self::entryId('sighting');
        $day = self::entryId('day');
        $this->sees('/models');
        $this->sees('/models/new');
        $this->sees("/models/new?fact=$fact");
        $this->sees('/models/new?entries='.$fact.','.$day.','.self::entryId('station'));
        $this->title('What is refused');
        $this->does("/models/new?fact=$fact", '/models', ['name' => 'Nothing', 'entries' => '', 'facts' => '']);
        $this->does("/models/new?fact=$fact", '/models', ['name' => ' ', 'entries' => "$fact,$day", 'facts' => (string) $fact]);
        $this->does("/models/new?fact=$fact", '/models', ['name' => str_repeat('long ', 60), 'entries' => "$fact", 'facts' => (string) $fact]);
        $this->title('Made, with one entry left out and one of another kind');
        $given = ['entries' => "$fact,$day,".self::entryId('species').','.self::entryId('instrument_stock'), 'facts' => (string) $fact];
        $this->does("/models/new?fact=$fact", '/models', ['name' => 'Seen', 'purpose' => 'what is seen', 'kinds' => [
            self::entryId('species') => '', self::entryId('instrument_stock') => 'fact', $day => 'dimension',
        ]] + $given);
        $kept = self::get(Models::class)->named('Seen') ?? throw new \LogicException();
        $this->sees('/models/'.$kept->id().'.json');
        $this->does("/models/new?fact=$fact", '/models', ['name' => 'Seen', 'purpose' => 'again'] + $given);
        $this->sees('/models');
        $this->isAsItWas('models.begun');
    }

    public function testAModelIsChangedPartByPart(): void
    {
        $kept = $this->river();
        $model = '/models/'.$kept->id();
        $this->sees($model);
        foreach (['part=measure&name=individuals%20seen', 'part=measure&fact=sighting', 'part=role&name=day', 'part=attribute&role=station&name=station%20name',
            'part=attribute&role=day', 'part=measure&name=individuals%20per%20sighting', 'part=role&name=none', 'part=what'] as $form) {
            $this->sees("$model/form?$form");
        }
        $this->title('Measures');
        $measure = ['was' => '', 'fact' => 'sighting', 'aggregation' => 'sum', 'expression' => ' individuals * 2 ', 'filter' => 'individuals > 1',
            'unit' => 'heads', 'format' => '0.0', 'meaning' => 'twice what is there', 'adds' => 'all', 'reason' => 'none', 'of' => 'sightings',
            'by' => 'store'];
        $this->does($model, "$model/measures", ['name' => 'twice as many'] + $measure);
        $this->does($model, "$model/measures", ['name' => 'twice as many'] + $measure);
        $this->does($model, "$model/measures", ['name' => ''] + $measure);
        $this->does($model, "$model/measures", ['name' => str_repeat('n', 161)] + $measure);
        $this->does($model, "$model/measures", ['name' => str_repeat('n', 160)] + $measure);
        $this->does($model, "$model/measures", ['name' => 'odd', 'aggregation' => 'guess'] + $measure);
        $this->does($model, "$model/measures", ['name' => 'share', 'aggregation' => 'ratio', 'of' => 'protected individuals',
            'by' => 'individuals seen'] + $measure);
        $this->does($model, "$model/measures", ['name' => 'twice', 'was' => 'twice as many', 'adds' => 'some', 'notOver' => ['day', 'station'],
            'instant' => "day\r\ndate", 'instead' => 'last', 'reason' => 'counted at the end'] + $measure);
        $this->does($model, "$model/measures", ['name' => 'late', 'was' => 'gone meanwhile', 'stamp' => 'x'] + $measure);
        foreach (['first', 'after sightings', 'after twice', 'after nothing'] as $place) {
            $this->does($model, "$model/measures", ['name' => 'twice', 'was' => 'twice', 'place' => $place] + $measure);
        }
        $this->does($model, "$model/measures", ['remove' => '1', 'was' => 'species seen']);
        $this->title('Attributes');
        $attribute = ['role' => 'station', 'was' => '', 'expression' => 'opened', 'meaning' => 'when it began', 'unit' => '', 'sorted' => 'station code'];
        $this->does($model, "$model/attributes", ['name' => 'opened'] + $attribute);
        $this->does($model, "$model/attributes", ['name' => 'opened'] + $attribute);
        $this->does($model, "$model/attributes", ['name' => 'begun', 'was' => 'opened', 'sorted' => '', 'place' => 'first'] + $attribute);
        $this->does($model, "$model/attributes", ['name' => ''] + $attribute);
        $this->does($model, "$model/attributes", ['name' => str_repeat('a', 161)] + $attribute);
        $this->does($model, "$model/attributes", ['name' => 'x', 'role' => 'nobody'] + $attribute);
        $this->does($model, "$model/attributes", ['remove' => '1', 'role' => 'parameter', 'was' => 'unit']);
        $this->title('Roles');
        $role = ['kind' => 'dimension', 'grain' => 'one water', 'meaning' => 'a part of a river', 'key' => ' reach_id , ', 'label' => 'reach'];
        $this->does($model, "$model/roles", ['was' => 'reach', 'name' => 'water'] + $role);
        $this->does($model, "$model/roles", ['was' => 'reach', 'name' => 'water'] + $role);
        $this->does($model, "$model/roles", ['was' => 'water', 'name' => 'day'] + $role);
        $this->does($model, "$model/roles", ['was' => 'water', 'name' => ''] + $role);
        $this->does($model, "$model/roles", ['was' => 'water', 'name' => str_repeat('w', 121)] + $role);
        $this->does($model, "$model/roles", ['was' => 'water', 'name' => 'water', 'kind' => 'none such'] + $role);
        $this->does($model, "$model/roles", ['was' => 'species group', 'name' => 'group', 'kind' => 'link'] + $role);
        $this->does($model, "$model/roles", ['was' => 'group', 'remove' => '1']);
        $this->sees("$model.json");
        $this->isAsItWas('models.parts');
    }

    public function testHowAModelHangsTogetherIsChanged(): void
    {
        $kept = $this->river();
        $model = '/models/'.$kept->id();
        $this->title('Fields taken');
        $this->does($model, "$model/take", ['role' => 'day', 'take' => ['day_id', 'month', 'no such']]);
        $this->does($model, "$model/take", ['role' => 'reading day', 'take' => ['readings', 'least']]);
        $this->title('Joins, routes and hierarchies');
        $joins = $kept->model()->joins;
        $key = static fn (int $i): string => $joins[$i]->key();
        $this->does($model, "$model/joins", ['key' => $key(0), 'name' => '']);
        $this->does($model, "$model/joins", ['key' => $key(0), 'name' => ' day seen ']);
        $this->does($model, "$model/joins", ['key' => $key(2), 'remove' => '1']);
        $this->does($model, "$model/joins", ['key' => 'none', 'name' => 'own']);
        $this->does($model, "$model/routes", ['from' => 'sighting', 'to' => 'day confirmed', 'by' => $key(1)."\r\n\r\n"]);
        $this->does($model, "$model/hierarchies", ['name' => 'waters', 'levels' => "station\tstation name\r\nreach\treach\r\nalone", 'ragged' => '1']);
        $this->does($model, "$model/hierarchies", ['name' => 'short', 'levels' => "station\tstation name"]);
        $this->does($model, "$model/hierarchies", ['name' => ' ', 'levels' => "station\tstation name\nreach\treach"]);
        $this->does($model, "$model/hierarchies", ['name' => 'above', 'levels' => "station\tstation name", 'parent' => ' reach_id , ']);
        $this->does($model, "$model/hierarchies", ['name' => 'station code', 'remove' => '1']);
        $this->sees("$model/hierarchies?role=day");
        $this->sees("$model/hierarchies?role=nobody");
        $this->title('Formulas as they are typed');
        foreach (['station&text=', 'nobody&text=x', 'sighting&text=individuals%20%2B%20', 'sighting&text=individuals%20*%202',
            'sighting&text=individuals%20%3D%20%27a%27',
            'reading%20day&text=mean'] as $formula) {
            $this->sees("$model/formula?role=$formula");
        }
        $this->sees($model);
        $this->sees("$model.json");
        $this->sees("$model/history");
        $this->sees("$model/matrix");
        $this->isAsItWas('models.changed');
    }

    public function testAModelIsAskedAndItsTrialsAreKept(): void
    {
        $kept = $this->river();
        $model = '/models/'.$kept->id();
        $this->sees("$model/trial");
        $split = 'm[]=individuals%20seen&m[]=sightings&b[]=season%20of%20day&o[]=-individuals%20seen';
        $this->sees("$model/trial?$split");
        foreach ([$split, "$split&w[]=year%20of%20day%20is%202025&n=2", 'm[]=none', 'm[]=individuals%20seen&b[]=nothing%20of%20day',
            'm[]=individuals%20seen&w[]=huh',
            'm[]=store&b[]=station%20name%20of%20station', 'm[]=individuals%20seen&m[]=readings&b[]=year%20of%20day', 'b[]=season%20of%20day'] as $asked) {
            $this->sees("$model/trial/plan?$asked");
        }
        $this->title('Kept');
        $trial = ['m' => ['individuals seen'], 'b' => ['season of day'], 'w' => [], 'o' => [], 'n' => '0'];
        $this->does("$model/trial", "$model/trials", ['name' => ' Seen by season ', 'neededBy' => ' the yearly report ',
            'expected' => ' about a hundred '] + $trial);
        $this->does("$model/trial", "$model/trials", ['name' => ''] + $trial);
        $this->does("$model/trial", "$model/trials", ['name' => str_repeat('n', 161)] + $trial);
        $this->does("$model/trial", "$model/trials", ['name' => 'nothing', 'm' => []] + $trial);
        $this->does("$model/trial", "$model/trials", ['name' => 'Store by station', 'm' => ['in store'], 'b' => ['station name of station']] + $trial);
        $this->sees("$model/trials");
        self::work(self::scalar('SELECT MAX(id) FROM job'));
        $this->sees("$model/checks");
        $this->does("$model/checks", "$model/look");
        self::work(self::scalar('SELECT MAX(id) FROM job'));
        $this->sees("$model/trials");
        $one = self::scalar("SELECT id FROM kept_trial WHERE name = 'Seen by season'");
        $this->does("$model/trials", "$model/trials/$one", ['name' => '', 'neededBy' => 'nobody', 'expected' => '', 'rowsPublished' => '1']);
        $this->does("$model/trials", "$model/trials/$one", ['name' => 'By season', 'neededBy' => str_repeat('w', 230), 'expected' => ' 5 ']);
        $this->title('Changed by what the model is changed to');
        $this->does($model, "$model/measures", ['name' => 'individuals seen', 'was' => 'individuals seen', 'fact' => 'sighting', 'aggregation' => 'sum',
            'expression' => 'individuals', 'filter' => 'individuals > 2', 'adds' => 'all']);
        self::work(self::scalar('SELECT MAX(id) FROM job'));
        $this->sees("$model/trials");
        $this->sees('/models');
        $this->does("$model/trials", "$model/trials/$one", ['seen' => '1']);
        $this->does("$model/trials", "$model/trials/99999999", ['seen' => '1']);
        $this->sees("$model/trials");
        $this->does("$model/trials", "$model/trials/$one", ['remove' => '1']);
        $this->sees("$model/trials");
        $this->sees("$model/lineage");
        $this->sees("$model.json");
        $this->title('Settings');
        $this->does($model, "$model/settings", ['shared' => '0']);
        $this->sees('/models');
        $this->does($model, "$model/settings", ['connection' => '0']);
        $this->client->loginUser($this->account(Role::READER, 'Oke Reader'));
        $this->sees($model);
        $this->client->loginUser($this->oona);
        $this->does($model, "$model/settings", ['shared' => '1']);
        $this->client->loginUser($this->account(Role::READER, 'Ove Reader'));
        $this->sees("$model/trial?$split");
        $this->client->loginUser($this->oona);
        $this->does($model, "$model/settings", ['remove' => '1']);
        $this->sees('/models');
        $this->isAsItWas('models.asked');
    }

    public function testModelsAtTheCommandLine(): void
    {
        $kept = $this->river();
        $file = self::$folder.'/river.json';
        file_put_contents($file, ModelFile::json($kept->model(), 'mart', []));
        $asked = ['name' => 'River life', '--measure' => ['individuals seen', 'sightings'], '--by' => ['season of day']];
        $this->runs('fasti:model:ask', $asked);
        $this->runs('fasti:model:ask', ['--reconcile' => true, '--order' => ['-individuals seen'], '--limit' => 2, '--format' => 'json'] + $asked);
        $this->runs('fasti:model:ask', ['--format' => 'sql', '--where' => ['year of day is 2025']] + $asked);
        $this->runs('fasti:model:ask', ['--format' => 'xml'] + $asked);
        $this->runs('fasti:model:ask', ['--measure' => ['none']] + $asked);
        $this->runs('fasti:model:ask', ['name' => 'Nobody'] + $asked);
        $this->runs('fasti:model:ask', ['--where' => ['huh']] + $asked);
        $this->runs('fasti:model:ask', ['name' => 'River life', '--measure' => ['in store'], '--by' => ['station name of station']]);
        $this->runs('fasti:model:ask', ['--file' => $file, '--measure' => ['sightings'], '--by' => ['common name of species', 'season of day'],
            '--limit' => 5]);
        $this->runs('fasti:model:ask', ['--file' => $file, '--target' => self::$folder.'/mart.sqlite', '--measure' => ['sightings'], '--reconcile' => true]);
        $this->runs('fasti:model:ask', ['--file' => $file, '--target' => self::$folder.'/none.sqlite', '--measure' => ['sightings']]);
        $this->runs('fasti:model:ask', ['--file' => self::$folder.'/none.json', '--measure' => ['sightings']]);
        $this->runs('fasti:model:check', ['name' => 'River life']);
        $this->runs('fasti:model:check', ['name' => 'River life', '--format' => 'json', '--fail-on' => 'note']);
        $this->runs('fasti:model:check', ['--file' => $file, '--fail-on' => 'doubt']);
        $this->runs('fasti:model:check', ['--file' => $file, '--fail-on' => 'huge']);
        $this->runs('fasti:model:check', ['--file' => $file, '--format' => 'xml']);
        $this->runs('fasti:model:check', ['name' => 'Nobody']);
        $this->does('/models/'.$kept->id().'/trial', '/models/'.$kept->id().'/trials', [
            'name' => 'In store, by station', 'm' => ['in store'], 'b' => ['station name of station'],
        ]);
        $this->runs('fasti:model:check', ['name' => 'River life']);
        $this->isAsItWas('models.commands');
    }
}
