<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Survey;

use Fasti\Core\Survey\Stopped;
use Fasti\Source\Source;
use Fasti\Survey\Survey;
use Fasti\Survey\SurveyJob;
use Fasti\Survey\Surveys;
use Fasti\Tests\App\AppTestCase;
use Fasti\Work\Jobs;
use Fasti\Work\Running;

/** How far a survey is, and stopping it. */
final class ProgressTest extends AppTestCase
{
    private Source $source;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
    }

    private function running(): Survey
    {
        $survey = self::get(Surveys::class)->start($this->source, null);
        self::assertTrue(self::get(Jobs::class)->claim($survey->job->id()));

        return $survey;
    }

    private function told(Survey $survey): Running
    {
        return new Running($survey->job, self::get(Jobs::class), self::get(SurveyJob::class));
    }

    private function cancel(Survey $survey): void
    {
        $crawler = $this->client->request('GET', '/surveys/'.$survey->id());
        $this->client->submit($crawler->selectButton('Cancel')->form());
        self::assertResponseRedirects('/surveys/'.$survey->id());
    }

    public function testItTellsWhatIsReadAndHowFarItIs(): void
    {
        $survey = $this->running();
        $progress = $this->told($survey)->saying('Reading ');
        $progress->at('indexes and keys', 3, 9);
        $progress->at('indexes and keys', 4, 9);
        $this->signedIn();
        $this->client->request('GET', '/jobs/'.$survey->job->id().'/state');

        self::assertSame(
            ['state' => 'running', 'over' => false, 'words' => 'Reading indexes and keys (3 of 9)', 'done' => 3, 'total' => 9, 'silent' => false],
            $this->answer(),
            'What is told twice within a moment is told once.',
        );
        $this->client->request('GET', '/surveys/'.$survey->id());
        self::assertSelectorTextContains('.work', 'indexes and keys');
    }

    public function testACancelledSurveyStopsAtItsNextWord(): void
    {
        $survey = $this->running();
        $progress = $this->told($survey);
        $progress->at('columns', 2, 9);
        $this->signedIn();
        $this->cancel($survey);
        self::assertSame('running', self::state($survey->job->id()), 'The worker itself ends it.');

        $this->expectException(Stopped::class);
        $progress->at('views', 6, 9);
    }

    public function testOneThatHasFallenSilentIsSaidToAndCancelledAtOnce(): void
    {
        $survey = $this->running();
        self::fallSilent($survey->job->id());
        $this->signedIn();
        $this->client->request('GET', '/jobs/'.$survey->job->id().'/state');
        self::assertTrue($this->answer()['silent']);

        $this->cancel($survey);
        $this->client->request('GET', '/surveys/'.$survey->id());
        self::assertSelectorTextContains('h1', 'The survey was cancelled');
    }

    public function testASilentOneDoesNotKeepTheNextFromStarting(): void
    {
        $dead = $this->running()->job->id();
        self::fallSilent($dead);
        $this->signedIn();
        $crawler = $this->client->request('GET', '/sources/'.$this->source->id());
        $this->client->submit($crawler->selectButton('Survey')->form());

        self::assertSame('failed', self::state($dead));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM job WHERE state = 'waiting'"));
    }
}
