<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Fasti\Account\Role;

/** Where fields come from: pages, kept queries, commands. */
final class LineageDayTest extends DayTestCase
{
    public function testFieldsAndEntriesAreFollowed(): void
    {
        self::sourceOf('store');
        $this->works();
        foreach (['late_loan' => ['full_name', 'loans', 'oldest'], 'loan' => ['lent_on', 'back_on', 'approved_by'], 'open_loan' => ['serial_no', 'loan_id'],
            'sighting_season' => ['individuals', 'stations', 'common_name'], 'reading_month_place' => ['readings', 'catchment_name']] as $entry => $fields) {
            $this->sees('/register/'.self::entryId($entry).'/lineage');
            $this->sees('/register/'.self::entryId($entry).'/lineage?conditions=1');
            foreach ($fields as $field) {
                $this->sees('/register/fields/'.self::fieldId($entry, $field).'/lineage');
                $this->sees('/register/fields/'.self::fieldId($entry, $field).'/lineage?conditions=1');
            }
        }
        $this->sees('/register/99999/lineage');
        $this->sees('/register/fields/99999/lineage');
        $this->sees('/register/'.self::entryId('late_loan'));
        $this->isAsItWas('lineage.followed');
    }

    public function testQueriesAreReadAndKept(): void
    {
        $source = self::sourceOf('store')->id();
        $queries = '/register/queries';
        $this->sees($queries);
        $this->sees("$queries?source=$source");
        $sql = "SELECT p.full_name, count(*) AS n FROM loan l JOIN person p ON p.person_id = l.person_id WHERE l.state = 'out' GROUP BY p.full_name";
        foreach ([$sql, 'SELECT * FROM nowhere', 'SELEC 1', '', str_repeat('x', 200001), 'SELECT nothing FROM loan', "$sql; DELETE FROM loan"] as $text) {
            $this->does($queries, "$queries/read", ['source' => $source, 'text' => $text, 'name' => 'Who has what']);
        }
        $this->does($queries, "$queries/read", ['source' => 99999, 'text' => $sql]);
        $this->does($queries, $queries, ['source' => $source, 'text' => $sql, 'name' => ' Who has what ']);
        $this->does($queries, $queries, ['source' => $source, 'text' => $sql, 'name' => '']);
        $this->does($queries, $queries, ['source' => $source, 'text' => '', 'name' => 'Nothing']);
        $this->does($queries, $queries, ['source' => $source, 'text' => $sql, 'name' => str_repeat('n', 300)]);
        $this->sees($queries);
        $this->sees("$queries/".self::scalar("SELECT id FROM kept_query WHERE name = 'Who has what'"));
        $this->sees("$queries/99999");
        $this->sees('/search?q=who%20has');
        $this->client->loginUser($this->account(Role::READER, 'Oke Reader'));
        $this->sees($queries);
        $this->isAsItWas('lineage.queries');
    }

    public function testLineageAtTheCommandLine(): void
    {
        $store = self::$folder.'/store.sqlite';
        foreach ([[], ['field' => 'late_loan.loans'], ['field' => 'main.loan.lent_on', '--up' => true], ['field' => 'loan.nothing'], ['field' => 'loan'],
            ['field' => 'nowhere.x'], ['--schema' => 'other'], ['--format' => 'json', 'field' => 'late_loan.oldest'], ['--format' => 'xml'],
            ['--format' => 'openlineage', '--schema' => 'main']] as $asked) {
            $this->runs('fasti:lineage', ['target' => $store] + $asked);
        }
        $this->runs('fasti:steps', ['target' => $store, 'view' => 'late_loan']);
        $this->runs('fasti:steps', ['target' => $store, 'view' => 'main.open_loan']);
        $this->runs('fasti:steps', ['target' => $store, 'view' => 'loan']);
        $this->runs('fasti:steps', ['target' => $store, 'view' => 'none']);
        self::sourceOf('store');
        $this->runs('fasti:read-views', ['--missing' => true]);
        $this->runs('fasti:read-views');
        $this->notes(self::scalar('SELECT COUNT(*) FROM view_reading').' views read');
        $this->isAsItWas('lineage.commands');
    }
}
