<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Cage;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Cage\Child;
use PHPUnit\Framework\TestCase;

/** A program beside: what is said to it and what it says, to the letter, and how it ends. */
final class ChildTest extends TestCase
{
    public function testLinesComeOneByOneAndWhatIsNoLineYetWaits(): void
    {
        $child = self::shell('echo one; echo two; printf thr; read x; echo ee; printf rest');
        self::assertSame(['one', 'two'], [$child->line(60), $child->line(60)]);
        self::assertNull($child->line(0.05), 'The third is not whole.');
        $child->write("go\n", true);

        self::assertSame('three', $child->line(60));
        self::assertNull($child->line(60), 'It has ended without another line.');
        self::assertSame('rest', $child->finish(60));
        self::assertFalse($child->runs());
    }

    public function testWhatIsSaidOfErrorsIsKeptApartAndOnlyItsEnd(): void
    {
        $child = self::shell('echo out; head -c 5000 /dev/zero | tr "\0" a >&2; echo " last words " >&2; read x');
        self::assertSame('out', $child->line(60));
        for ($i = 0; $i < 600 && !str_ends_with($child->said(), 'last words'); ++$i) {
            usleep(50_000);
        }

        self::assertStringEndsWith('a last words', $child->said());
        self::assertSame(2000 - 2, \strlen($child->said()), 'Two thousand letters, of which a blank and the end of the line at the end say nothing.');
        $child->stop();
        self::assertFalse($child->runs());
        self::assertNull($child->root());
    }

    public function testAnEndThatIsNoneIsSaidWithItsNumberAndItsWords(): void
    {
        foreach (['exit 7' => 'It ended with 7: it said nothing', 'echo why >&2; exit 1' => 'It ended with 1: why'] as $script => $said) {
            try {
                self::shell($script)->finish(60);
                self::fail('It should have failed.');
            } catch (CageError $e) {
                self::assertSame($said, $e->getMessage());
            }
        }
    }

    public function testWhatDoesNotEndIsEnded(): void
    {
        $child = self::shell('exec sleep 600');
        try {
            $child->finish(0.2);
            self::fail('It should have been ended.');
        } catch (CageError $e) {
            self::assertSame('It needed more than 0 seconds, and was ended.', $e->getMessage());
        }
        self::assertFalse($child->runs());
        $this->expectException(CageError::class);
        $child->finish(1);
    }

    public function testMuchGoesInWhileMuchComesOut(): void
    {
        $text = random_bytes(600_000);
        $child = self::shell('cat; cat >/dev/null');
        $child->write(substr($text, 0, 300_000));
        $child->write(substr($text, 300_000), true);

        self::assertSame(md5($text), md5($child->finish(120)));
    }

    public function testWhoeverDoesNotListenIsToldNothingMore(): void
    {
        $child = self::shell('exec 0<&-; echo ready; sleep 0.2; echo done');
        self::assertSame('ready', $child->line(60));
        $child->write(str_repeat('x', 300_000), true);

        self::assertSame("done\n", $child->finish(60));
    }

    public function testItGetsItsThirdDescriptorAndTheEnvironmentThatItIsGiven(): void
    {
        $child = new Child(['/bin/bash', '-c', 'cat <&3; echo; env | grep -v "^\(PWD\|SHLVL\|_\)="; pwd'], 'It', ['A' => 'b c'], 'handed');

        self::assertSame("handed\nA=b c\n/\n", $child->finish(60));
    }

    public function testAProgramThatIsNotThereIsSaid(): void
    {
        $this->expectException(CageError::class);
        (new Child(['/no/such/program'], 'It'))->finish(5);
    }

    public function testTheRootOfACageIsSeenFromOutsideOnceItStands(): void
    {
        $child = (new Cage())->start(['/bin/bash', '-c', 'echo inside > /work/told; echo ready; exec sleep 600']);
        self::assertSame('ready', $child->line(60));
        $root = $child->root();

        self::assertMatchesRegularExpression('#^/proc/\d+/root$#', (string) $root);
        self::assertSame("inside\n", shell_exec('cat '.escapeshellarg($root.'/work/told')));
        self::assertFileDoesNotExist('/work/told');
        $child->stop();
        self::assertNull($child->root());
    }

    public function testThingsOfTheEnvironmentReachTheProgramInACage(): void
    {
        $child = (new Cage(environment: ['LANG' => 'C.UTF-8', 'OWN' => 'x y']))->start(['/bin/bash', '-c', 'echo "$OWN $LANG"; grep -c "" /etc/passwd']);

        self::assertSame('x y C.UTF-8', $child->line(60));
        self::assertLessThanOrEqual(2, (int) $child->line(60), 'Of accounts only those that are needed are known.');
    }

    private static function shell(string $script): Child
    {
        return new Child(['/bin/bash', '-c', $script], 'It');
    }
}
