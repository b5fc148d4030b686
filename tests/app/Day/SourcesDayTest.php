<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Fasti\Account\Act\Act;
use Fasti\Account\Role;
use Fasti\Core\Model\ModelFile;
use Fasti\Design\Designs;
use Fasti\Model\Editing;
use Symfony\Component\DomCrawler\Crawler;
use Symfony\Component\Filesystem\Filesystem;

/** Sources, their surveys and jobs, editions and accounts, and the commands that read a source without keeping anything. */
final class SourcesDayTest extends DayTestCase
{
    public function testASourceIsConnectedChosenFromAndSurveyed(): void
    {
        $this->client->loginUser($this->account(Role::ADMINISTRATOR, 'Ren Abara'));
        $source = $this->mart;
        $page = '/sources/'.$source->id();
        foreach (['/sources', '/sources/new', $page, "$page/connection", "$page/connections/new", "$page/choice", "$page/compare", '/sources/99999'] as $path) {
            $this->sees($path);
        }
        $form = static fn (array $given): array => ['source_form' => $given + ['name' => 'store', 'purpose' => '', 'owner' => '', 'cadence' => '',
            'label' => 'live',
            'engine' => 'sqlite', 'path' => 'store.sqlite']];
        foreach ([[], ['name' => ''], ['name' => 'mart'], ['label' => ''], ['engine' => 'none'], ['path' => '../../etc/passwd'],
            ['engine' => 'mariadb', 'host' => '', 'path' => ''], ['engine' => 'postgresql', 'url' => 'nonsense', 'path' => '']] as $given) {
            $this->formed('/sources/new', $form($given));
        }
        $this->title('Tried');
        foreach ([['engine' => 'sqlite'], ['engine' => 'mariadb', 'host' => '127.0.0.1', 'port' => '1'], ['engine' => 'mariadb', 'url' => 'mysql://x@'],
            ['engine' => 'postgresql', 'host' => '127.0.0.1', 'port' => '1', 'database' => 'd', 'account' => 'a', 'secret' => 's']] as $given) {
            $this->does('/sources/new', '/sources/test', $given);
        }
        $this->title('Another connection');
        $this->formed("$page/connections/new", $form(['name' => 'mart', 'label' => 'test', 'path' => 'mart.sqlite']));
        $this->sees($page);
        $this->title('Chosen');
        $this->does("$page/choice", "$page/look");
        $this->sees("$page/choice");
        $this->does("$page/choice", "$page/choice", ['schemas' => []]);
        $this->does("$page/choice", "$page/choice", ['all_schemas' => '1', 'include' => "s*\n\n main.reach ", 'exclude' => 'species*']);
        $this->works();
        $this->sees('/surveys/'.self::scalar('SELECT MAX(id) FROM survey'));
        $this->title('Changed');
        $store = self::sourceOf('drifting');
        $page = '/sources/'.$store->id();
        $file = new \PDO('sqlite:'.self::$folder.'/drifting.sqlite');
        $file->exec('ALTER TABLE person RENAME COLUMN joined TO joined_on; ALTER TABLE person ADD COLUMN town varchar(40); DROP TABLE old_import;
            CREATE TABLE visitor (id integer PRIMARY KEY, seen date); ALTER TABLE shelf RENAME TO rack');
        $this->does($page, "$page/survey");
        $this->works();
        $survey = self::scalar('SELECT MAX(id) FROM survey');
        $this->sees("/surveys/$survey");
        $this->sees("/surveys/$survey/catalog.json");
        $this->sees("/surveys/$survey/report.txt");
        $this->sees("$page/compare");
        $this->sees("$page/compare?a=$survey&b=$survey");
        $this->does("/surveys/$survey", "/surveys/$survey/decide", ['item' => ['0' => 'yes', '1' => 'no', '2' => ['x'], '3' => 'yes', '4' => 'apart'],
            'apart' => ['0' => ['joined_on']]]);
        $this->sees("/surveys/$survey");
        $this->does($page, "/surveys/$survey/decide", ['item' => []]);
        $this->sees('/surveys/99999');
        $this->sees($page);
        $this->sees('/sources');
        $this->title('Jobs');
        $job = self::scalar('SELECT MAX(id) FROM job');
        $this->sees("/jobs/$job");
        $this->sees("/jobs/$job/state");
        $this->sees('/jobs/99999/state');
        foreach (['sheets/oracle/columns.sql', 'sheets/oracle/none.sql', 'sheets/none/columns.sql'] as $sheet) {
            $this->sees("/sources/$sheet");
        }
        $this->isAsItWas('sources');
    }

    /** @param array<string, mixed> $fields */
    private function formed(string $path, array $fields): void
    {
        $page = $this->client->request('GET', $path);
        $form = $page->filter('form[method="post"]')->reduce(static fn (Crawler $one): bool => $one->filter('[name$="[name]"]')->count() > 0)->first();
        $named = (string) preg_replace('/\[.*/', '', (string) $form->filter('[name*="["]')->first()->attr('name'));
        $token = $form->filter('[name$="[_token]"]');
        $given = array_values($fields)[0];
        $this->hands($path, [$named => (\is_array($given) ? $given : []) + (0 === $token->count() ? [] : ['_token' => $token->attr('value')])], $page);
    }

    public function testAProfileIsMadePausedAndGoneOnWith(): void
    {
        $source = $this->mart->id();
        $page = "/sources/$source";
        $this->does($page, "$page/profile", ['entry' => self::entryId('sighting')]);
        $job = self::scalar('SELECT MAX(id) FROM job');
        $this->sees("/profiles/$job");
        $this->sees("/jobs/$job/state");
        $this->does("/profiles/$job", "/jobs/$job/pause");
        $this->sees("/profiles/$job");
        $this->does("/profiles/$job", "/jobs/$job/resume");
        $this->works();
        $this->sees("/jobs/$job/state");
        $this->sees("/profiles/$job");
        $this->sees('/register/'.self::entryId('sighting'));
        $this->does($page, "$page/profile", ['entry' => 0]);
        $job = self::scalar('SELECT MAX(id) FROM job');
        $this->does("/profiles/$job", "/jobs/$job/cancel");
        $this->works();
        $this->sees("/profiles/$job");
        $this->sees('/register/fields/'.self::fieldId('sighting', 'individuals').'/breaking.sql');
        $this->sees('/register/fields/99999/breaking.sql');
        $this->isAsItWas('profiles');
    }

    public function testCollectionsArePlannedAndDescribed(): void
    {
        $source = $this->mart->id();
        $plan = "/sources/$source/plan";
        $this->sees($plan);
        $members = "\"station code\" string required\nheight number\nplace.town string\nread[].at string (date-time)\n";
        foreach ([['name' => 'gauge_reading', 'about' => 'what gauges say', 'members' => $members], ['name' => '', 'about' => '', 'members' => $members],
            ['name' => 'station', 'about' => '', 'members' => $members], ['name' => 'empty', 'about' => '', 'members' => ''],
            ['name' => 'odd', 'about' => '', 'members' => "a what\n!!"]] as $given) {
            $this->does($plan, $plan, $given);
        }
        $this->sees('/register/'.self::entryId('station').'/schema');
        $schema = '/register/'.self::entryId('gauge_reading').'/schema';
        $this->sees($schema);
        $this->sees("$schema.json");
        foreach (['{"type": "object"}', '{"type": "obj', '', '{"type": 7}'] as $given) {
            $this->does($schema, $schema, ['schema' => $given, 'base' => '']);
        }
        $this->sees("$schema.json");
        $this->isAsItWas('collections');
    }

    public function testAnEditionIsMade(): void
    {
        self::sourceOf('store');
        $model = ModelFile::read((string) file_get_contents(\dirname(__DIR__, 3).'/demo/river-life.json'));
        $river = self::get(Editing::class)->begin($this->oona, 'River life', 'what lives there', $this->mart, $model);
        $design = self::get(Designs::class)->make($this->oona, (string) file_get_contents(\dirname(__DIR__, 3).'/demo/lending.outline.txt'));
        $river->shared = $design->shared = true;
        self::get(Designs::class)->save();
        $asked = ['m' => ['individuals seen'], 'b' => ['season of day']];
        $this->does("/models/{$river->id()}/trial", "/models/{$river->id()}/trials", ['name' => 'Seen by season', 'neededBy' => 'the report'] + $asked);
        $this->works();
        $trial = self::scalar('SELECT MAX(id) FROM kept_trial');
        $this->does("/models/{$river->id()}/trials", "/models/{$river->id()}/trials/$trial", ['name' => 'Seen by season', 'rowsPublished' => '1']);
        $this->client->loginUser($this->account($this->roleOf([Act::READ, Act::DESCRIBE, Act::PUBLISH]), 'Una Press'));
        $this->sees('/editions');
        $this->does('/editions', '/editions', ['title' => str_repeat('t', 200), 'note' => 'First of **all**.', 'sources' => [$this->mart->id(), 'x']]);
        $this->works();
        $this->sees('/editions');
        $number = self::scalar('SELECT MAX(number) FROM edition');
        $this->sees("/editions/$number/index.html");
        $this->sees("/editions/$number/none.html");
        $this->sees("/editions/$number/../../../.env");
        $this->sees("/editions/$number.zip");
        $this->sees('/editions/99999.zip');
        $out = self::$folder.'/out';
        $this->runs('fasti:publish', ['--out' => $out, '--source' => 'mart', '--title' => 'By hand']);
        $files = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($out, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo) {
                $files[] = substr($file->getPathname(), \strlen($out) + 1);
            }
        }
        sort($files);
        $this->notes(...$files);
        foreach (array_filter($files, static fn (string $file): bool => str_ends_with($file, '.html')) as $file) {
            $this->notes('', "## $file", ...PageWords::of(new Crawler((string) file_get_contents("$out/$file"))));
        }
        $this->runs('fasti:publish', ['--out' => $out, '--source' => 'nobody']);
        $this->runs('fasti:publish', ['--out' => self::$folder]);
        $this->runs('fasti:publish');
        (new Filesystem())->remove($out);
        $this->isAsItWas('editions');
    }

    public function testAccountsAndRoles(): void
    {
        $ren = $this->account(Role::ADMINISTRATOR, 'Ren Abara');
        $this->client->loginUser($ren);
        foreach (['/accounts', '/accounts/new', '/accounts/'.$ren->id(), '/accounts/99999', '/accounts/roles'] as $path) {
            $this->sees($path);
        }
        $role = static fn (array $given): array => ['role' => $given];
        $this->formed('/accounts/roles', $role(['name' => 'proof-reader', 'acts' => ['describe', 'ask']]));
        $this->formed('/accounts/roles', $role(['name' => 'proof-reader', 'acts' => ['ask']]));
        $this->formed('/accounts/roles', $role(['name' => '', 'acts' => []]));
        $this->formed('/accounts/roles', $role(['name' => 'flyer', 'acts' => ['fly']]));
        $made = self::scalar("SELECT id FROM account_role WHERE name = 'proof-reader'");
        $this->formed("/accounts/roles/$made", $role(['name' => 'reviser', 'acts' => ['ask']]));
        $this->formed('/accounts/roles/'.$ren->role?->id(), $role(['name' => 'administrator', 'acts' => ['ask']]));
        $this->sees("/accounts/roles/$made");
        $account = static fn (array $given): array => ['account' => $given + ['name' => 'Ida Fen', 'email' => 'ida@example.org', 'role' => $made,
            'password' => 'long enough it is']];
        foreach ([[], ['email' => 'not one'], ['name' => ''], ['password' => 'short', 'email' => 'b@example.org'], ['role' => 99999,
            'email' => 'c@example.org']] as $given) {
            $this->formed('/accounts/new', $account($given));
        }
        $this->sees('/accounts');
        self::db()->executeStatement('DELETE FROM account WHERE role_id = ?', [$made]);
        $this->does("/accounts/roles/$made", "/accounts/roles/$made/away");
        $this->runs('fasti:account', ['email' => 'una@example.org', 'name' => 'Una', 'role' => 'reader'], "a long password\n");
        $this->runs('fasti:account', ['email' => 'una@example.org', 'name' => 'Una Mole', 'role' => 'steward'], "another password\n");
        $this->runs('fasti:account', ['email' => 'una@example.org', 'name' => 'Una Mole', 'role' => 'king'], "another password\n");
        $this->runs('fasti:account', ['email' => 'una', 'name' => 'Una Mole', 'role' => 'reader'], "another password\n");
        $this->runs('fasti:account', ['email' => 'new@example.org', 'name' => 'New', 'role' => 'reader'], "short\n");
        $this->runs('fasti:first-code');
        $this->sees('/accounts');
        $this->isAsItWas('accounts');
    }

    public function testASourceIsReadAtTheCommandLine(): void
    {
        $store = self::$folder.'/store.sqlite';
        $mart = self::$folder.'/mart.sqlite';
        $none = self::$folder.'/none.sqlite';
        file_put_contents(self::$folder.'/docs.jsonl', "{\"a\": 1}\n{\"a\": \"x\"}\nnot json\n{}\n");
        file_put_contents(self::$folder.'/schema.json', '{"type": "object", "required": ["a"], "properties": {"a": {"type": "integer"}}}');
        foreach ([
            'fasti:survey' => [[], ['--format' => 'json', '--include' => ['loan*']], ['--format' => 'xml'], ['--schema' => ['none']], ['--exclude' => ['*']],
                ['target' => $none], ['--dialect' => 'latin']],
            'fasti:profile' => [['--table' => 'loan'], ['--table' => 'main.loan', '--grain' => 'instrument_id, lent_on', '--format' => 'json'],
                ['--table' => 'none'], [],
                ['--table' => 'loan', '--grain' => 'nothing'], ['--table' => 'loan', '--format' => 'xml'], ['target' => $none, '--table' => 'loan']],
            'fasti:check' => [[], ['--fail-on' => 'note', '--data' => true], ['--format' => 'json'], ['--format' => 'junit'], ['--format' => 'xml'],
                ['--fail-on' => 'x'],
                ['target' => $none]],
            'fasti:drafts' => [[], ['--data' => true, '--format' => 'json'], ['--format' => 'xml'], ['target' => $none]],
            'fasti:joins' => [[], ['--no-data' => true, '--format' => 'json'], ['--ignore-declared' => true], ['--format' => 'xml'], ['target' => $none],
                ['--budget' => 0]],
            'fasti:route' => [['from' => 'loan_note', 'to' => 'shelf'], ['from' => 'loan', 'to' => 'person', '--declared' => true], ['from' => 'loan',
                'to' => 'none'],
                ['from' => 'main.loan_note', 'to' => 'loan', '--format' => 'sql'], ['from' => 'loan_note', 'to' => 'shelf', '--format' => 'json'],
                ['from' => 'loan', 'to' => 'old_import'], ['from' => 'loan', 'to' => 'loan'], ['from' => 'loan', 'to' => 'person', '--format' => 'xml']],
        ] as $command => $some) {
            foreach ($some as $asked) {
                $this->runs($command, $asked + ['target' => $store]);
            }
        }
        $this->runs('fasti:compare', ['before' => $store, 'after' => $mart]);
        $this->runs('fasti:compare', ['before' => $store, 'after' => $store]);
        $this->runs('fasti:compare', ['before' => $store, 'after' => $mart, '--format' => 'json']);
        $this->runs('fasti:compare', ['before' => $store, 'after' => $none]);
        $this->runs('fasti:compare', ['before' => $store, 'after' => $mart, '--format' => 'xml']);
        foreach (['docs.jsonl', 'none.jsonl', 'schema.json'] as $file) {
            $this->runs('fasti:validate', ['documents' => self::$folder."/$file", '--schema' => self::$folder.'/schema.json']);
        }
        $this->runs('fasti:validate', ['documents' => self::$folder.'/docs.jsonl', '--schema' => self::$folder.'/schema.json', '--most' => 1]);
        $this->runs('fasti:validate', ['documents' => self::$folder.'/docs.jsonl', '--schema' => self::$folder.'/none.json']);
        $this->runs('fasti:validate', ['documents' => self::$folder.'/docs.jsonl']);
        $this->runs('fasti:survey-due');
        $this->isAsItWas('commands');
    }
}
