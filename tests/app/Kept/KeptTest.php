<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Kept;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Account\Role;
use Fasti\Core\Model\Model;
use Fasti\Design\Designs;
use Fasti\Diagram\Diagrams;
use Fasti\Kept\Kept;
use Fasti\Kept\KeptNamed;
use Fasti\Kept\KeptStore;
use Fasti\Kept\KeptStores;
use Fasti\Kept\NotThere;
use Fasti\Kept\NotYours;
use Fasti\Lineage\KeptQueries;
use Fasti\Model\Editing;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use PHPUnit\Framework\Attributes\TestWith;

/** What is the same of all that people keep. */
final class KeptTest extends AppTestCase
{
    private function keep(string $kind, Account $owner, string $name = 'Lending'): Kept
    {
        $source = $this->source('s'.random_int(0, \PHP_INT_MAX));

        return match ($kind) {
            'diagram' => self::get(Diagrams::class)->keep($name, 'what is lent', $owner),
            'design' => self::get(Designs::class)->make($owner, "Design \"$name\"\n  for what is lent\n"),
            'query' => self::get(KeptQueries::class)->keep($source, $name, 'SELECT 1', $owner),
            default => self::get(Editing::class)->begin($owner, $name, 'what is lent', $source, new Model($name)),
        };
    }

    /** @return KeptStore<Kept> */
    private static function store(string $kind): KeptStore
    {
        return self::get(KeptStores::class)->of($kind);
    }

    public function testEveryKindIsFoundByBeingThere(): void
    {
        self::assertSame(['design', 'diagram', 'query', 'model'], array_keys(self::get(KeptStores::class)->all()));
        self::assertSame(['design', 'diagram', 'model'], array_keys(self::get(KeptStores::class)->inWhichEntriesStand()));
        $this->expectException(NotThere::class);
        self::store('song');
    }

    #[TestWith(['diagram', true])]
    #[TestWith(['query', true])]
    #[TestWith(['design', false])]
    #[TestWith(['model', false])]
    public function testWhoSeesAndWhoChangesIt(string $kind, bool $shared): void
    {
        $oona = $this->signedIn();
        $kept = $this->keep($kind, $oona);
        $store = self::store($kind);
        $ren = $this->account(Role::STEWARD, 'Ren Abara');
        $ida = $this->account(Role::READER, 'Ida Fell');
        self::assertSame($shared, $kept->shared);
        self::assertSame([true, $shared, $shared], [$kept->isSeenBy($oona), $kept->isSeenBy($ren), $kept->isSeenBy($ida)]);

        $kept->shared = true;
        $store->save();
        self::assertSame([true, true, false], [$kept->isChangedBy($oona), $kept->isChangedBy($ren), $kept->isChangedBy($ida)]);
        self::assertSame($kept->id(), $store->seen($kept->id(), $ida)->id());
        self::assertContains($kept->id(), array_map(static fn (Kept $one): int => $one->id(), $store->shared()));
        $this->expectException(NotYours::class);
        $this->expectExceptionMessage("This $kind is not yours to change.");
        $store->changed($kept->id(), $ida);
    }

    #[TestWith(['diagram'])]
    #[TestWith(['query'])]
    #[TestWith(['design'])]
    #[TestWith(['model'])]
    public function testWhatIsThrownAwayIsNowhereUntilItIsTakenBack(string $kind): void
    {
        $oona = $this->signedIn();
        $kept = $this->keep($kind, $oona);
        $store = self::store($kind);
        $found = static fn (): array => array_column(self::get(KeptNamed::class)->of('  lend'), 'words');
        self::assertSame([ucfirst($kind).': Lending'], $found());

        $ren = $this->account(Role::STEWARD, 'Ren Abara');
        try {
            $store->throwAway($kept, $ren);
            self::fail('Somebody else threw it away.');
        } catch (NotYours $e) {
            self::assertSame("Only its owner may throw a $kind away.", $e->getMessage());
        }
        $store->throwAway($kept, $oona);
        self::assertSame([null, null, [], [], []], [$store->one($kept->id()), $store->named('Lending'), $store->names($oona), $store->shared(), $found()]);
        self::assertSame([[$kept], []], [$store->thrown($oona), $store->thrown($ren)]);
        self::assertFalse($kept->isSeenBy($oona));

        // Another has its name meanwhile.
        $this->keep($kind, $oona);
        self::assertSame('Lending (2)', $store->takeBack($kept->id(), $oona)->name);
        self::assertSame([], $store->thrown($oona));
        self::assertNotNull($store->one($kept->id()));
        $this->expectException(NotThere::class);
        $store->takeBack($kept->id(), $oona);
    }

    public function testNobodyTakesBackWhatSomebodyElseThrewAway(): void
    {
        $oona = $this->signedIn();
        $kept = $this->keep('design', $oona);
        self::store('design')->throwAway($kept, $oona);

        $this->expectException(NotThere::class);
        self::store('design')->takeBack($kept->id(), $this->account(Role::STEWARD, 'Ren Abara'));
    }

    #[TestWith(['model'])]
    #[TestWith(['design'])]
    public function testThrowingAwayAndTakingBackOnThePages(string $kind): void
    {
        $oona = $this->signedIn();
        $kept = $this->keep($kind, $oona);
        $crawler = $this->client->request('GET', "/{$kind}s/".$kept->id());
        $button = $crawler->filter('button[name=remove]')->first();
        $this->client->submit($button->form(), ['remove' => '1']);
        $page = $this->client->followRedirect();
        self::assertStringContainsString("The $kind “Lending” is thrown away", $this->content());
        $this->client->request('GET', "/{$kind}s/".$kept->id());
        self::assertResponseStatusCodeSame(404);

        $this->client->submit($page->selectButton('Take it back')->form());
        $this->client->followRedirect();
        self::assertResponseIsSuccessful();
        self::assertStringContainsString("The $kind “Lending” is back.", $this->content());
        $this->client->request('GET', "/{$kind}s");
        self::assertSelectorNotExists('.thrown');
    }

    public function testStoresSayWhatIsWrongAndPagesHowItIsAnswered(): void
    {
        $ren = $this->account(Role::STEWARD, 'Ren Abara');
        $kept = $this->keep('model', $ren);
        $this->signedIn();
        $this->client->request('GET', '/models/'.$kept->id());
        self::assertResponseStatusCodeSame(404);

        $kept->shared = true;
        self::store('model')->save();
        $this->client->loginUser($this->account($this->roleOf([Act::DESCRIBE]), 'Pell Osier'));
        $this->client->request('GET', '/models/'.$kept->id());
        self::assertResponseIsSuccessful();
        $this->client->request('GET', '/models/'.$kept->id().'/form?part=measure');
        self::assertResponseIsSuccessful();
    }

    public function testNamesAreWrittenOnceAndAreNotTooLong(): void
    {
        $oona = $this->signedIn();
        $this->keep('model', $oona);
        $other = $this->keep('model', $oona, 'Buying');
        $texts = self::get(Texts::class);
        foreach (['Lending' => 'There is a model “Lending” already', ' ' => 'needs a name', str_repeat('x', 121) => '120 fit here'] as $name => $words) {
            try {
                $texts->save($oona, 'model', $other->id(), 'name', 'Buying', (string) $name, 's');
                self::fail("It is called “{$name}” now.");
            } catch (BadText $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
        self::assertTrue($texts->save($oona, 'model', $other->id(), 'name', 'Buying', 'Buying', 's')->saved, 'Its own name is free to it.');
        self::assertSame('a b', KeptNamed::folded("  A_b\t"));
        $this->expectExceptionMessage('The purpose has 400 characters at most.');
        self::store('model')->purpose(str_repeat('x', 401));
    }

    public function testTheHistoryOfEachKindHasItsPage(): void
    {
        $oona = $this->signedIn();
        self::apply($this->source('rivers'), Made::catalog(Made::table('station')));
        foreach (['diagram' => 'a sitting at a time', 'design' => 'the outline is then', 'model' => 'the model is then'] as $kind => $words) {
            $kept = $this->keep($kind, $oona);
            $page = $this->client->request('GET', "/{$kind}s/{$kept->id()}/history");
            self::assertResponseIsSuccessful();
            self::assertSelectorTextContains('h1', 'History of Lending');
            self::assertSelectorTextContains('.lead', $words);
            self::assertSame(["/{$kind}s", "/{$kind}s/{$kept->id()}"], $page->filter('.crumb a')->extract(['href']));
        }
    }
}
