<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Register;

use Fasti\Account\Role;
use Fasti\Support\Markdown;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;

/** Writing in the register, as the page's script does it. */
final class TextsTest extends AppTestCase
{
    private string $token = '';
    private int $field = 0;

    protected function setUp(): void
    {
        parent::setUp();
        self::apply($this->source(), Made::catalog(Made::table('station', ['code' => 'char(6)'])));
        $this->field = self::fieldId('station', 'code');
        $this->signedIn();
        $this->token = $this->textsToken();
    }

    /** @return array<mixed> */
    private function save(string $base, string $value, string $sitting = 'one', string $property = 'meaning'): array
    {
        $this->post(
            '/texts',
            ['topic' => 'field', 'id' => $this->field, 'property' => $property, 'base' => $base, 'value' => $value, 'sitting' => $sitting],
            $this->token,
        );

        return $this->answer();
    }

    private function meaning(): string
    {
        $text = self::db()->fetchOne('SELECT meaning FROM field WHERE id = ?', [$this->field]);

        return \is_string($text) ? $text : '';
    }

    public function testWhatIsTypedInOneSittingIsOneChange(): void
    {
        $this->save('', 'Pain');
        $this->save('Pain', 'Painted **on** the box');
        self::assertSame("<p>Painted <strong>on</strong> the box</p>\n", $this->answer()['html']);
        $this->save('Painted **on** the box', 'Painted on it', 'two');

        self::assertSame(
            [['', 'Painted **on** the box'], ['Painted **on** the box', 'Painted on it']],
            array_map(array_values(...), self::db()->fetchAllAssociative('SELECT text_before, text_after FROM change_event ORDER BY id')),
        );
        self::assertSame(1, self::scalar("SELECT described_count FROM entry WHERE name = 'station'"));
    }

    public function testTwoPeopleInOneTextLoseNoWords(): void
    {
        $this->save('', 'Mine');
        $this->signedIn(Role::STEWARD, 'Ren Abara');
        $this->token = $this->textsToken();
        $answer = $this->save('', 'Theirs');

        self::assertResponseStatusCodeSame(409);
        self::assertSame(['Mine', 'Oona Lisk'], [$answer['value'], $answer['by']]);
        self::assertSame('Mine', $this->meaning());

        $this->save('Mine', "Mine\n\nTheirs");
        self::assertSame("Mine\n\nTheirs", $this->meaning());
    }

    public function testTheSameTextFromTwoPeopleIsNoConflict(): void
    {
        $this->save('', 'Same');
        $this->save('', 'Same', 'other');

        self::assertResponseIsSuccessful();
        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM change_event'));
    }

    public function testAChangeIsTakenBackMuchLaterAndThatToo(): void
    {
        $this->save('', 'First', 'a');
        $this->save('First', 'Second', 'b');
        $this->save('Second', 'Third', 'c');
        $second = self::scalar("SELECT id FROM change_event WHERE text_after = 'Second'");

        $this->post("/texts/changes/$second/take-back", [], $this->token);
        self::assertSame('First', $this->meaning());
        $back = self::scalar('SELECT MAX(id) FROM change_event');
        $this->post("/texts/changes/$back/take-back", [], $this->token);
        self::assertSame('Third', $this->meaning());
        self::assertSame(5, self::scalar('SELECT COUNT(*) FROM change_event'));

        $this->client->request('GET', '/register/'.self::entryId('station').'/history');
        self::assertSelectorTextContains('.history', 'Third');
    }

    public function testBadTextsAreRefusedInWords(): void
    {
        self::assertStringContainsString(
            '190 fit here',
            (string) json_encode($this->save('', str_repeat('x', 191), 'a', 'businessName'), \JSON_UNESCAPED_UNICODE),
        );
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('no text called', (string) json_encode($this->save('', 'x', 'a', 'name')));
        $this->post(
            '/texts',
            ['topic' => 'entry', 'id' => self::entryId('station'), 'property' => 'standing', 'base' => 'open', 'value' => 'perfect', 'sitting' => 'a'],
            $this->token,
        );
        self::assertResponseStatusCodeSame(422);
        $this->post('/texts', ['topic' => 'field', 'id' => 999999999, 'property' => 'meaning', 'base' => '', 'value' => 'x', 'sitting' => 'a'], $this->token);
        self::assertResponseStatusCodeSame(422);
    }

    public function testControlSignsAndLineEndsAreCleaned(): void
    {
        $this->save('', "a\r\nb\x00\x07c  \n");

        self::assertSame("a\nbc", $this->meaning());
    }

    public function testAReaderSeesTextsButNoEditor(): void
    {
        $this->save('', 'Painted on the box');
        $this->signedIn(Role::READER, 'Ida Fell');
        $this->client->request('GET', '/register/'.self::entryId('station'));

        self::assertSelectorTextContains('.ledger', 'Painted on the box');
        self::assertSelectorNotExists('[data-text]');
        self::assertSelectorNotExists('meta[name="texts-token"]');
    }

    public function testMarkdownIsSafe(): void
    {
        $html = Markdown::html(
            "A <script>alert(1)</script> [x](javascript:alert(1)) ![p](https://elsewhere.example/p.png) <b onclick=x>b</b>\n\n- one\n- `two`",
        );

        self::assertStringNotContainsString('<script', $html);
        self::assertStringNotContainsString('javascript:', $html);
        self::assertStringNotContainsString('<img', $html);
        self::assertStringNotContainsString('<b ', $html);
        self::assertStringContainsString('<li><code>two</code></li>', $html);
        self::assertSame('<p>It&#039;s plain</p>', Markdown::html("It's plain"));
        self::assertSame('', Markdown::html(''));
    }
}
