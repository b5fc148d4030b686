<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Survey;

use Fasti\Core\Survey\Stopped;
use Fasti\Source\Source;
use Fasti\Survey\SurveyProgress;
use Fasti\Tests\App\AppTestCase;

/** How far a survey is, and stopping it. */
final class ProgressTest extends AppTestCase
{
    private Source $source;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
    }

    private function running(int $secondsSilent = 0): int
    {
        self::db()->executeStatement("INSERT INTO survey (source_id, state, asked_at, heard_at, doing, done, total, cancel_asked, error, summary) VALUES (?, 'running', UTC_TIMESTAMP(), UTC_TIMESTAMP() - INTERVAL ? SECOND, 'columns', 2, 9, 0, '', '[]')", [$this->source->id(), $secondsSilent]);

        return self::scalar('SELECT MAX(id) FROM survey');
    }

    private function cancel(int $id): void
    {
        $crawler = $this->client->request('GET', '/surveys/'.$id);
        $this->client->submit($crawler->selectButton('Cancel')->form());
        self::assertResponseRedirects('/surveys/'.$id);
    }

    public function testItTellsWhatIsReadAndHowFarItIs(): void
    {
        $id = $this->running();
        $progress = new SurveyProgress(self::db(), $id);
        $progress->at('indexes and keys', 3, 9);
        $progress->at('indexes and keys', 4, 9);
        $this->signedIn();
        $this->client->request('GET', "/surveys/$id/state");

        self::assertSame(['running', false, 'indexes and keys', 3, 9, false], array_values(array_diff_key($this->answer(), ['waited' => 1])), 'What is told twice within a moment is told once.');
        $this->client->request('GET', '/surveys/'.$id);
        self::assertSelectorTextContains('.work', 'indexes and keys');
    }

    public function testACancelledSurveyStopsAtItsNextWord(): void
    {
        $id = $this->running();
        $progress = new SurveyProgress(self::db(), $id);
        $progress->at('columns', 2, 9);
        $this->signedIn();
        $this->cancel($id);
        self::assertSame('running', self::db()->fetchOne('SELECT state FROM survey WHERE id = ?', [$id]), 'The worker itself ends it.');

        $this->expectException(Stopped::class);
        $progress->at('views', 6, 9);
    }

    public function testOneThatHasFallenSilentIsSaidToAndCancelledAtOnce(): void
    {
        $id = $this->running(600);
        $this->signedIn();
        $this->client->request('GET', "/surveys/$id/state");
        self::assertTrue($this->answer()['silent']);

        $this->cancel($id);
        $this->client->request('GET', '/surveys/'.$id);
        self::assertSelectorTextContains('h1', 'The survey was cancelled');
    }

    public function testASilentOneDoesNotKeepTheNextFromStarting(): void
    {
        $dead = $this->running(600);
        $this->signedIn();
        $crawler = $this->client->request('GET', '/sources/'.$this->source->id());
        $this->client->submit($crawler->selectButton('Survey')->form());

        self::assertSame('failed', self::db()->fetchOne('SELECT state FROM survey WHERE id = ?', [$dead]));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM survey WHERE state = 'waiting'"));
    }
}
