<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Register;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\DocumentShape;
use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Profile\Profiled;
use Fasti\Profile\Profiles;
use Fasti\Register\Dossier;
use Fasti\Register\Dossiers;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;

/** Everything that is known of an entry, gathered once, and what the page makes of it. */
final class DossierTest extends AppTestCase
{
    private static function messages(): Table
    {
        $column = static fn (string $path, int $present, int $of, string $type = 'string'): Column => new Column(
            $path,
            $type,
            seen: new Seen($present, $of, [$type => $present]),
        );

        return new Table(
            'files', 'message', TableType::Collection, '',
            [
                $column('power', 40, 100, 'object'), $column('power.volts', 40, 40, 'number'), $column('power.source', 10, 40), $column('sent', 100, 100),
                $column('api_key', 100, 100),
            ],
            rowEstimate: 100, storage: 'JSON', shapes: [new DocumentShape(100, ['sent', 'api_key'], ['power'], '{"sent":"now","api_key":"hidden-9"}', 1, 100)],
        );
    }

    private function dossier(string $name): Dossier
    {
        return self::get(Dossiers::class)->one(self::entryId($name)) ?? self::fail('There is no dossier.');
    }

    public function testAMemberWithinAnObjectThatIsOftenMissingSaysWithinWhat(): void
    {
        self::apply($this->source(), Made::catalog(self::messages()));
        $this->signedIn();
        $full = fn (string $field): string => $this->client->getCrawler()->filter('#field-'.self::fieldId('message', $field).' .full')->text();
        $this->client->request('GET', '/register/'.self::entryId('message'));

        self::assertSame('always there within power', $full('power.volts'));
        self::assertSame('there in 25 % within power', $full('power.source'));
        self::assertSame('there in 40 %', $full('power'));
        self::assertSame('always there', $full('sent'));

        $figures = array_map(static fn (int $filled): FieldProfile => new FieldProfile(40, $filled), ['power.volts' => 40, 'power.source' => 10]);
        self::get(Profiles::class)->keep(self::entryId('message'), new TableProfile(100, 100, '', $figures));
        $this->client->request('GET', '/register/'.self::entryId('message'));
        self::assertSame('full within power', $full('power.volts'));
        self::assertSame('25 % filled within power', $full('power.source'));
        self::assertSame('always there', $full('sent'), 'Without a figure what the survey saw stands.');
    }

    public function testNoExampleIsShownWhereAFieldIsSecret(): void
    {
        self::apply($this->source(), Made::catalog(self::messages()));
        $this->signedIn();
        $page = $this->client->request('GET', '/register/'.self::entryId('message'));

        self::assertSame(['api_key'], $this->dossier('message')->withheld());
        self::assertStringNotContainsString('hidden-9', $this->content());
        self::assertStringContainsString('Not shown: the collection holds personal data (api_key)', $page->filter('.shapes')->text());
        self::assertSame('secret', $page->filter('#field-'.self::fieldId('message', 'api_key').' .tags .ochre')->text());
        self::assertSame(
            0,
            $page->filter('#field-'.self::fieldId('message', 'api_key').' select[data-property=personal]')->count(),
            'Nobody is asked about a secret.',
        );
        self::assertSame(1, $page->filter('#field-'.self::fieldId('message', 'sent').' select[data-property=personal]')->count());
    }

    public function testARoomThatKnowsNothingOffersToFindOutOnlyWhereOneMayAsk(): void
    {
        self::apply($this->source(), Made::catalog(Made::table('station')));
        $dossier = $this->dossier('station');

        self::assertNull($dossier->part(Profiled::class));
        self::assertContains('profile/_count.html.twig', $dossier->partials('count', true));
        self::assertNotContains('profile/_count.html.twig', $dossier->partials('count', false));
        self::get(Profiles::class)->keep(self::entryId('station'), new TableProfile(3, 3, '', []));
        self::assertContains('profile/_count.html.twig', $this->dossier('station')->partials('count', false));
        self::assertSame(3, $this->dossier('station')->part(Profiled::class)?->profile->rows);
    }
}
