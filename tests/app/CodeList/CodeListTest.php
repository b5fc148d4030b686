<?php

declare(strict_types=1);

namespace Fasti\Tests\App\CodeList;

use Fasti\Account\Account;
use Fasti\CodeList\CodeLists;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Finding\Findings;
use Fasti\Profile\Profiles;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\BadText;
use Fasti\Text\Texts;

final class CodeListTest extends AppTestCase
{
    private Source $source;
    private Account $account;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        self::apply($this->source, Made::catalog(Made::table('reading', ['flag' => 'char(1)', 'value' => 'int']), Made::table('other', ['flag' => 'char(1)'])));
        $this->account = $this->signedIn();
    }

    /** @param array<string, int> $counts */
    private function profiled(array $counts, ?int $distinct = null, string $personal = ''): void
    {
        $all = array_sum($counts);
        $field = new FieldProfile($all, $all, 0, $distinct ?? \count($counts), 'A', 'Z', frequent: '' === $personal ? $counts : [], frequentOf: $all,
            personal: $personal);
        self::get(Profiles::class)->keep(self::entryId('reading'), new TableProfile($all, $all, '', ['flag' => $field], [], null, [], 0.1));
    }

    private function allow(string $text, string $base = ''): void
    {
        self::get(Texts::class)->save($this->account, FieldTopic::NAME, self::fieldId('reading', 'flag'), 'allowed', $base, $text, 'x');
    }

    public function testOneIsMadeOfTheValuesFoundWithOneKey(): void
    {
        $this->post('/register/code-lists/of/'.self::fieldId('reading', 'flag'), ['base' => ''], $this->textsToken());
        self::assertStringContainsString('Nobody has looked at the data', $this->content());
        $this->profiled(['G' => 900, 'S' => 40, 'B' => 7]);
        self::assertStringContainsString('make one of its 3 values', $this->client->request('GET',
            '/register/'.self::entryId('reading'))->filter('.ledger')->text());
        $this->post('/register/code-lists/of/'.self::fieldId('reading', 'flag'), ['base' => ''], $this->textsToken());
        self::assertResponseIsSuccessful();
        self::assertSame(['B', 'G', 'S'], self::get(CodeLists::class)->codesOf('reading flag'));
        $page = $this->client->request('GET', '/register/'.self::entryId('reading'));
        self::assertStringContainsString('code list reading flag', $page->filter('.ledger')->text());
        $this->profiled([], null, 'e-mail addresses');
        $this->post('/register/code-lists/of/'.self::fieldId('reading', 'flag'), ['base' => 'code list reading flag'], $this->textsToken());
        self::assertStringContainsString('personal', $this->content());
    }

    public function testItStandsAgainstTheDataOfItsFields(): void
    {
        $id = self::get(CodeLists::class)->make('quality flag', ['G' => 'good', 'S' => '', 'M' => 'missing']);
        $this->allow('code list quality flag');
        $this->profiled(['G' => 900, 'S' => 40, 'X' => 312]);
        $page = $this->client->request('GET', "/register/code-lists/$id");
        self::assertStringContainsString('X 312 rows', $page->filter('.missing')->text());
        self::assertStringContainsString('never', $page->filter('tbody tr')->reduce(static fn ($row): bool => str_starts_with($row->text(), 'M'))->text());
        self::assertSame(['M'], $this->client->request('GET',
            "/register/code-lists/$id?which=unused")->filter('tbody th')->each(static fn ($cell): string => $cell->text()));
        self::assertSame(['S'], $this->client->request('GET',
            "/register/code-lists/$id?which=unsaid")->filter('tbody th')->each(static fn ($cell): string => $cell->text()));
        self::assertStringContainsString('1 in 312 rows', $this->client->request('GET', '/register/code-lists')->filter('table')->first()->text());
        $this->client->submit($this->client->request('GET', "/register/code-lists/$id")->filter('.missing form')->selectButton('add')->form());
        self::assertSame(['G', 'S', 'M', 'X'], self::get(CodeLists::class)->codesOf('quality flag'));
        $this->profiled(['G' => 900], 20000);
        self::assertStringContainsString('not known', $this->client->request('GET', "/register/code-lists/$id")->filter('.count')->text());
    }

    public function testWhatIsAllowedIsUnderstoodOrRefusedWithItsPlace(): void
    {
        $this->allow('code list currencies; 3 characters');
        foreach (['code list nowhere' => 'There is no code list “nowhere”', '0 to 5; sometimes' => 'At character 9',
            'matches (a+)+' => 'run for ever'] as $text => $says) {
            try {
                $this->allow($text, 'code list currencies; 3 characters');
                self::fail($text);
            } catch (BadText $e) {
                self::assertStringContainsString($says, $e->getMessage());
            }
        }
    }

    public function testANewNameGoesWhereverItIsUsed(): void
    {
        $lists = self::get(CodeLists::class);
        $id = $lists->make('flags $1', ['G' => 'good']);
        $lists->make('flags', ['G' => 'good']);
        $this->allow('code list flags $1; 1 character');
        self::get(Texts::class)->save($this->account, 'code-list', $id, 'name', 'flags $1', 'quality \\1 flag', 'x');
        self::assertSame(['quality \\1 flag' => [self::fieldId('reading', 'flag')]], $lists->uses());
        [$allowed, $why] = $lists->allowed([self::fieldId('reading', 'flag')]);
        self::assertSame([], $why);
        self::assertTrue($allowed[self::fieldId('reading', 'flag')]->fits('G'));
        foreach (['currencies' => 'ships with Fasti', 'flags' => 'already', ' ' => 'has a name', 'a;b' => 'without semicolons'] as $name => $says) {
            try {
                $lists->checkName((string) $name, $id);
                self::fail((string) $name);
            } catch (BadText $e) {
                self::assertStringContainsString($says, $e->getMessage());
            }
        }
    }

    public function testTextsOfCodesAreCheckedAndHaveAHistory(): void
    {
        $id = self::get(CodeLists::class)->make('flags', ['G' => 'good', 'S' => 'suspect']);
        $code = self::scalar('SELECT id FROM code WHERE list_id = ? AND code = ?', $id, 'G');
        $texts = self::get(Texts::class);
        foreach ([['validFrom', '', '2026-02-30', 'is no day'], ['replacedBy', '', 'X', 'no other code'], ['position', '1', 'first',
            'a number']] as [$property, $base, $value, $says]) {
            try {
                $texts->save($this->account, 'code', $code, $property, $base, $value, 'x');
                self::fail($property);
            } catch (BadText $e) {
                self::assertStringContainsString($says, $e->getMessage());
            }
        }
        $texts->save($this->account, 'code', $code, 'replacedBy', '', 'S', 'x');
        $texts->save($this->account, 'code', $code, 'meaning', '', 'Nothing **speaks** against it.', 'x');
        self::assertStringContainsString('Nothing **speaks** against it.', $this->client->request('GET',
            "/register/code-lists/$id/history")->filter('table')->text());
        self::assertCount(1, $this->client->request('GET', "/register/code-lists/$id?which=replaced")->filter('tbody tr'));
    }

    public function testOneThatWasTakenOutComesBackWithItsTexts(): void
    {
        $lists = self::get(CodeLists::class);
        $id = $lists->make('flags', ['G' => 'good', 'S' => 'suspect']);
        $code = self::scalar('SELECT id FROM code WHERE list_id = ? AND code = ?', $id, 'G');
        $this->post("/register/code-lists/codes/$code/out", [], $this->textsToken());
        self::assertSame(['S'], $lists->codesOf('flags'));
        self::assertSame(1, $lists->add($id, ['G' => 'other', 'S' => 'other']));
        self::assertSame(['G' => 'good', 'S' => 'suspect'], $lists->labels('flags', 10));
    }

    public function testTwentyThousandCodesArePagedAndChecked(): void
    {
        $lists = self::get(CodeLists::class);
        $codes = [];
        for ($i = 0; $i < 20000; ++$i) {
            $codes[\sprintf('K%05d', $i)] = '';
        }
        $id = $lists->make('places', $codes);
        $this->allow('code list places');
        $page = $this->client->request('GET', "/register/code-lists/$id?page=100");
        self::assertSame('K19999', $page->filter('tbody th')->last()->text());
        self::assertCount(200, $page->filter('tbody tr'));
        [$allowed] = $lists->allowed([self::fieldId('reading', 'flag')]);
        self::assertTrue($allowed[self::fieldId('reading', 'flag')]->fits('K19999'));
        self::assertFalse($allowed[self::fieldId('reading', 'flag')]->fits('K20000'));
        self::assertStringContainsString('and more', $this->client->request('GET', '/register/'.self::entryId('reading'))->filter('.ledger')->text());
        $this->expectException(BadText::class);
        $lists->add($id, array_fill_keys(range(100000, 140000), ''));
    }

    public function testHostileCodesAreText(): void
    {
        $page = $this->client->request('GET', '/register/code-lists');
        $this->client->submit($page->selectButton('Add it')->form(['name' => '<i>x</i>',
            'codes' => "<script>alert(1)</script>\t<b>bold</b>\nספר\tעברית\n\"a,b\"\tboth"]));
        self::assertResponseRedirects();
        $this->client->followRedirect();
        self::assertStringNotContainsString('<script>alert', $this->content());
        self::assertStringNotContainsString('<b>bold', $this->content());
        self::assertStringContainsString('עברית', $this->content());
        $this->client->submit($page->selectButton('Add it')->form(['name' => 'y', 'codes' => str_repeat('x', 191)]));
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('Line 1 has no code', $this->content());
    }

    public function testTheStatementThatFindsWhatBreaks(): void
    {
        self::db()->executeStatement("UPDATE source SET engine = 'mariadb'");
        $this->allow("one of G, O'Hara");
        $this->client->request('GET', '/register/fields/'.self::fieldId('reading', 'flag').'/breaking.sql');
        self::assertStringContainsString('SELECT * FROM `main`.`reading`', $this->content());
        self::assertStringContainsString("'O''Hara'", $this->content());
        $this->client->request('GET', '/register/fields/'.self::fieldId('other', 'flag').'/breaking.sql');
        self::assertResponseStatusCodeSame(404);
    }

    public function testABrokenValueIsAFindingAndAPersonalOneIsNotShown(): void
    {
        $field = new FieldProfile(10, 10, allowed: 'one of G', broken: 3, breaking: ['X' => 3]);
        self::get(Profiles::class)->keep(self::entryId('reading'), new TableProfile(10, 10, '', ['flag' => $field], [], null, [], 0.1));
        self::assertSame(1, self::get(Findings::class)->countOf('not-allowed', $this->source->id()));
        self::assertStringContainsString('3 rows are not “one of G”, such as X', $this->client->request('GET',
            '/register/'.self::entryId('reading'))->filter('.ledger')->text());
    }
}
