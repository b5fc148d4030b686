<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Diagram;

use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;

final class DiagramTest extends AppTestCase
{
    private int $source = 0;

    protected function setUp(): void
    {
        parent::setUp();
        $source = $this->source();
        self::apply(
            $source,
            Made::catalog(
                Made::table('station'),
                Made::table('reading', ['station_id' => 'int', 'value' => 'int?'], ['station_id' => 'station']),
                Made::table('alone'),
            ),
        );
        $this->source = $source->id();
        $this->signedIn();
    }

    public function testASourceIsDrawnWithLinksAndTooltips(): void
    {
        $crawler = $this->client->request('GET', '/diagrams/sources/'.$this->source);

        self::assertCount(3, $crawler->filter('svg .tablet'));
        self::assertCount(1, $crawler->filter('svg .tablets')->siblings()->filter('.lines')->filter('.line'));
        self::assertSelectorExists('svg a[href="/register/'.self::entryId('reading').'"]');
        self::assertStringContainsString('A reading refers to exactly one station. A station is referred to by any number of readings.', $this->content());
    }

    public function testAnEntryIsDrawnWithItsNeighboursOnly(): void
    {
        $crawler = $this->client->request('GET', '/diagrams/entries/'.self::entryId('station'));

        self::assertCount(2, $crawler->filter('svg .tablet'));
        self::assertCount(1, $crawler->filter('svg .tablet.marked'));
    }

    public function testDetailNamesAndFoldingAreInTheAddress(): void
    {
        $page = '/diagrams/sources/'.$this->source;
        self::assertCount(0, $this->client->request('GET', $page.'?detail=names')->filter('svg .row'));
        self::assertCount(4, $this->client->request('GET', $page.'?detail=keys')->filter('svg .row'));
        self::assertCount(5, $this->client->request('GET', $page.'?detail=all')->filter('svg .row'));
        self::assertCount(2, $this->client->request('GET', $page.'?detail=all&fold='.self::entryId('reading'))->filter('svg .row'));
        self::assertStringContainsString('>reading<', (string) $this->client->request('GET', $page.'?names=identifiers')->filter('svg')->html());
    }

    public function testExports(): void
    {
        $this->client->request('GET', '/diagrams/sources/'.$this->source.'.svg');
        self::assertResponseHeaderSame('Content-Type', 'image/svg+xml');
        self::assertTrue((new \DOMDocument())->loadXML($this->content()));
        self::assertStringContainsString("@font-face{font-family:'Marcellus'", $this->content());

        $this->client->request('GET', '/diagrams/sources/'.$this->source.'.png');
        self::assertResponseIsSuccessful();
        $size = getimagesizefromstring($this->content());
        self::assertIsArray($size);
        self::assertSame('image/png', $size['mime']);
        self::assertGreaterThan(600, $size[0]);
    }
}
