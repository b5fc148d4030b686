<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Fasti\Account\Role;
use Fasti\Support\Row;

/** The register of a source whose joins nobody declared: joins, keys, routes, areas, findings, drafts, codes, terms. */
final class RegisterDayTest extends DayTestCase
{
    private int $store;

    protected function setUp(): void
    {
        parent::setUp();
        $this->store = self::sourceOf('store')->id();
        $this->works();
    }

    public function testJoinsAreProposedReviewedAndStated(): void
    {
        $this->sees("/register/joins?source=$this->store");
        $this->does("/register/joins?source=$this->store", '/register/joins/look', ['source' => $this->store]);
        $this->works();
        $this->sees("/register/joins?source=$this->store");
        $this->sees('/register/joins?state=documented');
        $this->sees('/register/joins?state=declared');
        $join = static fn (string $from, string $to): int => self::scalar(
            'SELECT MIN(j.id) FROM entry_join j JOIN entry f ON f.id = j.from_entry_id JOIN entry t ON t.id = j.to_entry_id WHERE f.name = ? AND t.name = ?',
            $from, $to,
        );
        $one = $join('loan', 'instrument');
        $this->sees("/register/joins/$one");
        $this->sees("/register/joins/take-all?source=$this->store&least=0.05");
        $this->title('Decided');
        $page = "/register/joins?source=$this->store";
        $this->sends($page, "/register/joins/$one/decide", ['base' => '', 'decision' => 'documented']);
        $this->sends($page, "/register/joins/$one/decide", ['base' => '', 'decision' => 'dismissed']);
        $this->sends($page, "/register/joins/$one/decide", ['base' => 'documented', 'decision' => 'eaten']);
        $this->sends($page, '/register/joins/99999/decide', ['base' => '', 'decision' => 'documented']);
        $this->sends($page, '/register/joins/'.$join('loan', 'person').'/decide', ['base' => '', 'decision' => 'dismissed']);
        $this->sees("/register/joins/$one");
        foreach (['0', '1.01', '0.6', '0,97'] as $least) {
            $this->sees("/register/joins/take-all?source=$this->store&least=$least");
        }
        $this->sends($page, '/register/joins/take-all', ['joins' => []]);
        $this->sends($page, '/register/joins/take-all', [
            'joins' => self::db()->fetchFirstColumn('SELECT id FROM entry_join ORDER BY id'),
        ]);
        $changes = $this->answer()['changes'] ?? [];
        $this->sends($page, '/register/joins/take-back', ['changes' => [...(\is_array($changes) ? $changes : []), 'x']]);
        $this->sends($page, '/register/joins/take-back', ['changes' => [1]]);
        $this->sees('/register/joins?source=0&state=dismissed');
        $this->isAsItWas('register.joins');
    }

    public function testAJoinIsStatedAndFollowed(): void
    {
        $loan = self::entryId('loan');
        $person = self::entryId('person');
        $state = "/register/$loan/join";
        $this->sees($state);
        $this->sees("$state?to=person");
        $this->sees("$state?to=main.shelf");
        $given = ['to' => 'person', 'near' => ['approved_by'], 'far' => ['person_id'], 'keep' => '1'];
        $this->does($state, $state, ['to' => ''] + $given);
        $this->does($state, $state, ['to' => 'nobody'] + $given);
        $this->does($state, $state, ['near' => [''], 'far' => ['']] + $given);
        $this->does($state, $state, ['near' => ['nothing']] + $given);
        $this->does($state, $state, ['far' => ['nothing']] + $given);
        $this->does($state, $state, ['to' => 'loan', 'near' => ['loan_id'], 'far' => ['loan_id']] + $given);
        $this->does($state, $state, ['whereField' => 'state'] + $given);
        $this->does($state, $state, ['whereField' => 'none', 'whereValue' => 'x'] + $given);
        $this->does($state, $state, ['whereField' => 'state', 'whereValue' => ' back '] + $given);
        $this->does($state, $state, array_diff_key($given, ['keep' => 1]));
        $this->does($state, $state, $given);
        $this->sees('/register/joins/'.self::scalar('SELECT MAX(id) FROM entry_join'));
        $this->sees("/register/$loan");
        $this->title('Routes');
        $this->sees('/register/route');
        $this->sees("/register/route?from=$loan");
        $this->sees("/register/route?from=$loan&to=".self::entryId('shelf'));
        $this->sees("/register/route?from=$person&to=".self::entryId('old_import'));
        $this->does("/register/route?from=$loan&to=".self::entryId('shelf'), '/register/route/count', [
            'from' => $loan, 'to' => self::entryId('shelf'), 'number' => 0,
        ]);
        $this->works();
        $this->sees("/register/route?from=$loan&to=".self::entryId('shelf').'&job='.self::scalar('SELECT MAX(id) FROM job'));
        $this->sees("/register/keys?source=$this->store");
        $this->sees("/register/keys?source=$this->store&kind=history");
        $this->sees("/register/loops?source=$this->store");
        $this->isAsItWas('register.stated');
    }

    public function testEntriesAreReadAndPutIntoAreas(): void
    {
        $this->sees('/register');
        foreach (['loan', 'instrument', 'late_loan', 'shelf', 'remark'] as $entry) {
            $this->sees('/register/'.self::entryId($entry));
        }
        $this->sees('/register/99999');
        $this->sees("/register/index/$this->store?q=lo&current=".self::entryId('loan'));
        $this->sees("/register/index/$this->store?q=nothing");
        $areas = "/register/areas?source=$this->store";
        $this->sees($areas);
        $entries = [self::entryId('loan'), self::entryId('loan_note'), 'x'];
        $this->does($areas, '/register/areas', ['source' => $this->store, 'name' => ' Lending ', 'entries' => $entries]);
        $this->does($areas, '/register/areas', ['source' => $this->store, 'name' => '', 'entries' => $entries]);
        $this->sees($areas);
        $this->does($areas, '/register/areas', ['source' => $this->store, 'area' => 'Lending', 'name' => 'Loans']);
        $this->does($areas, '/register/areas', ['source' => $this->store, 'name' => '', 'leave' => '1', 'entries' => [self::entryId('loan_note')]]);
        $this->sees($areas);
        $this->sees('/register/'.self::entryId('loan').'/history');
        foreach (['loan', 'serial', 'ln', 'zzzz', '', 'open%20loan', 'person_id', 'instrument.price'] as $words) {
            $this->sees("/search?q=$words");
        }
        $this->isAsItWas('register.entries');
    }

    public function testDraftsAreTakenAndFindingsSetAside(): void
    {
        $loan = self::entryId('loan');
        $page = "/register/$loan";
        $this->does("/sources/$this->store", "/sources/$this->store/profile", ['entry' => 0]);
        $this->works();
        $this->sees($page);
        $draft = fn (string $entry, string $field): array => ['topic' => 'field', 'id' => self::fieldId($entry,
            $field)] + $this->draftOf(self::fieldId($entry, $field));
        $back = $draft('loan', 'back_on');
        $this->title('Taken and dismissed');
        $this->sends($page, '/drafts/take', $back);
        $this->sends($page, '/drafts/take', $back);
        $this->sends($page, '/drafts/take', $draft('loan', 'loan_id') + ['elsewhere' => [self::fieldId('loan_note', 'loan_id'), 'x']]);
        $this->sends($page, '/drafts/take', ['evidence' => 'of another day'] + $draft('loan', 'lent_on'));
        $this->sends($page, '/drafts/dismiss', $draft('loan', 'lent_on'));
        $this->sends($page, '/drafts/dismiss', ['topic' => 'field', 'id' => self::fieldId('loan', 'lent_on'), 'property' => 'meaning', 'back' => true]);
        $this->sends($page, '/drafts/dismiss', ['topic' => 'field', 'id' => self::fieldId('loan', 'state'), 'property' => 'meaning', 'evidence' => 'none']);
        $this->sends($page, '/drafts/elsewhere/'.self::fieldId('loan', 'instrument_id'), ['property' => 'meaning', 'text' => 'The instrument.']);
        $this->sends($page, '/drafts/elsewhere/99999', ['property' => 'meaning', 'text' => 'The instrument.']);
        $this->sees('/drafts/takings');
        $this->sends($page, '/drafts/takings/'.self::scalar('SELECT MAX(id) FROM taking').'/back', []);
        $this->sends($page, '/drafts/takings/99999/back', []);
        $this->sees('/drafts/takings');
        $this->sees($page);
        $this->title('Short forms');
        $forms = '/register/short-forms';
        $this->sees($forms);
        foreach ([['sn', 'serial number', ''], ['no way', 'x', ''], ['', 'x', ''], ['qq', '', ''], ['qq', '', 'dismissed'], [str_repeat('q', 21), 'x',
            '']] as $said) {
            $this->does($forms, $forms, ['short' => $said[0], 'stands' => $said[1], 'standing' => $said[2]]);
        }
        $this->sees($forms);
        $this->sees('/desk');
        $this->sees('/desk?by=area');
        $this->sees('/desk/next');
        $this->isAsItWas('register.drafts');
    }

    /** @return array{property: string, evidence: string} */
    private function draftOf(int $field): array
    {
        $row = self::db()->fetchAssociative("SELECT evidence FROM draft WHERE topic = 'field' AND topic_id = ? AND property = 'meaning' ORDER BY place",
            [$field]);

        return ['property' => 'meaning', 'evidence' => false === $row ? 'there is none' : Row::text($row, 'evidence')];
    }

    public function testFindingsAreSetAside(): void
    {
        $this->does("/sources/$this->store", "/sources/$this->store/profile", ['entry' => 0]);
        $this->works();
        $found = '/register/findings';
        $this->sees($found);
        $this->sees("$found?source=$this->store&severity=fault");
        $this->sees("$found?check=constant&page=0");
        $this->sees("$found?check=none&severity=huge&page=99");
        $this->sees("$found/checks");
        $some = self::db()->fetchAllAssociative(
            'SELECT check_name, check_group, MIN(id) AS id FROM finding WHERE ended_at IS NULL GROUP BY 1, 2 ORDER BY 1, 2',
        );
        foreach ($some as $one) {
            $this->sees("$found?".http_build_query(['check' => Row::text($one, 'check_name'), 'group' => Row::text($one, 'check_group')]));
        }
        $this->client->loginUser($this->account(Role::ADMINISTRATOR, 'Ren Abara'));
        $this->title('Set aside');
        foreach ($some as $i => $one) {
            $id = Row::int($one, 'id');
            match ($i % 6) {
                0 => $this->sends($found, "$found/$id/aside", ['why' => ' so it is ', 'until' => '']),
                1 => $this->sends($found, "$found/$id/aside", ['why' => 'for now', 'until' => '2199-12-31']),
                2 => $this->sends($found, "$found/$id/aside", ['why' => 'late', 'until' => '2020-01-01']),
                3 => $this->sends($found, "$found/$id/aside", ['why' => 'never', 'until' => '31 December']),
                4 => $this->sends($found, "$found/aside", ['check' => Row::text($one, 'check_name'), 'group' => Row::text($one, 'check_group'),
                    'source' => $this->store, 'why' => 'all of it', 'until' => '']),
                default => $this->sends($found, "$found/$id/mend", []),
            };
        }
        $this->sends($found, "$found/aside", ['check' => 'constant', 'group' => '', 'source' => $this->store, 'why' => ' ', 'until' => '']);
        $this->sends($found, "$found/aside", ['check' => 'constant', 'group' => '', 'source' => $this->store, 'why' => 'x', 'until' => '2026-02-30']);
        $this->sends($found, "$found/99999/mend", []);
        $this->sends($found, $found.'/'.Row::int($some[0], 'id').'/back', []);
        $this->sees($found);
        $this->sees("$found?state=aside");
        $this->title('Checks');
        $this->does("$found/checks", "$found/checks/constant", ['runs' => '0']);
        $this->sees($found);
        $this->does("$found/checks", "$found/checks/constant", ['runs' => '1', 'severity' => 'fault']);
        $this->works();
        $this->sees($found);
        $this->does("$found/checks", "$found/checks/none", ['runs' => '1', 'severity' => 'fault']);
        $this->does($found, "$found/again");
        $this->works();
        $this->sees("$found/checks");
        $this->runs('fasti:check', ['--source' => 'store', '--fail-on' => 'note']);
        $this->runs('fasti:check', ['--source' => 'store', '--format' => 'json', '--fail-on' => 'fault']);
        $this->runs('fasti:check', ['--source' => 'nobody']);
        $this->isAsItWas('register.findings');
    }

    public function testCodesAndTerms(): void
    {
        $lists = '/register/code-lists';
        $this->sees($lists);
        $this->does($lists, $lists, ['name' => ' Loan states ']);
        $this->does($lists, $lists, ['name' => 'Loan states']);
        $this->does($lists, $lists, ['name' => '']);
        $list = self::scalar("SELECT id FROM code_list WHERE name = 'Loan states'");
        foreach (["out = with somebody\nback = on its shelf\n", 'out = again', "a\nb: c\n\n;", ''] as $codes) {
            $this->does("$lists/$list", "$lists/$list/codes", ['codes' => $codes, 'text' => $codes]);
        }
        $this->sees("$lists/$list");
        $this->sees("$lists/$list?which=unknown&page=7");
        $this->sends("$lists/$list", "$lists/codes/".self::scalar("SELECT id FROM code WHERE code = 'out'").'/out', []);
        $this->sends("$lists/$list", "$lists/codes/99999/out", []);
        $this->sees("$lists/$list/history");
        $this->sees("$lists/standard/currencies");
        $this->sees("$lists/standard/nothing");
        $this->sends('/register/'.self::entryId('loan'), "$lists/of/".self::fieldId('loan', 'state'), ['base' => '']);
        $this->sends('/register/'.self::entryId('instrument'), "$lists/of/".self::fieldId('instrument', 'kind'), ['base' => '']);
        $this->sees('/register/'.self::entryId('instrument'));
        $this->title('Terms');
        $terms = '/register/glossary';
        $this->sees($terms);
        $this->does($terms, $terms, ['name' => ' Loan ', 'area' => 'Lending']);
        $this->does($terms, $terms, ['name' => 'Loan', 'area' => 'Lending']);
        $this->does($terms, $terms, ['name' => '']);
        $term = self::scalar("SELECT id FROM term WHERE name = 'Loan'");
        $this->sends("$terms/$term", '/texts', ['topic' => 'term', 'id' => $term, 'property' => 'definition', 'base' => '', 'value' => 'What is **lent**.',
            'sitting' => 's']);
        $this->sends("$terms/$term", '/texts', ['topic' => 'term', 'id' => $term, 'property' => 'definition', 'base' => 'old', 'value' => 'Other',
            'sitting' => 't']);
        $this->sends("$terms/$term", '/texts', ['topic' => 'term', 'id' => $term, 'property' => 'colour', 'base' => '', 'value' => 'red', 'sitting' => 's']);
        $this->sends("$terms/$term", '/texts', ['topic' => 'term', 'id' => 99999, 'property' => 'definition', 'base' => '', 'value' => 'red',
            'sitting' => 's']);
        $this->sees("$terms/$term");
        $this->sees("$terms/$term/history");
        $this->sees("$terms?q=lo&area=Lending&page=3");
        $this->sends("$terms/$term", '/texts/changes/'.self::scalar('SELECT MAX(id) FROM change_event').'/take-back', []);
        $this->sends("$terms/$term", '/texts/changes/99999/take-back', []);
        $this->sees("$terms/$term");
        $this->isAsItWas('register.words');
    }
}
