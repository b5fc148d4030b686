<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Diagram;

use Fasti\Diagram\Raster;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class RasterTest extends TestCase
{
    private static function svg(int $width, int $height): string
    {
        return "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"$width\" height=\"$height\" viewBox=\"0 0 $width $height\"><text x=\"9\" "
            .'y="20">Reach</text></svg>';
    }

    private static function raster(): Raster
    {
        return new Raster(\dirname(__DIR__, 3));
    }

    /** @return iterable<string, array{int, int, string}> */
    public static function drawings(): iterable
    {
        yield 'small' => [900, 600, 'A4'];
        yield 'wide' => [1900, 500, 'A3'];
        yield 'high' => [900, 1900, 'A3'];
        yield 'large' => [3900, 2700, 'A1'];
        yield 'larger than any' => [30000, 20000, 'A0'];
    }

    public function testTheTypefacesCanBeReadByWhoeverDrawsInTheCage(): void
    {
        $umask = umask(0o077);
        try {
            self::raster()->png(self::svg(100, 100));
        } finally {
            umask($umask);
        }
        $folders = glob(\dirname(__DIR__, 3).'/var/run/fonts/*', \GLOB_ONLYDIR) ?: [];
        usort($folders, static fn (string $a, string $b): int => filemtime($b) <=> filemtime($a));

        self::assertSame(0o755, fileperms($folders[0]) & 0o777);
        foreach (glob($folders[0].'/*') ?: [] as $file) {
            self::assertSame(0o644, fileperms($file) & 0o777, $file);
        }
    }

    #[DataProvider('drawings')]
    public function testThePaperIsTheSmallestOnWhichItCanBeRead(int $width, int $height, string $paper): void
    {
        self::assertSame($paper, Raster::fitting(self::svg($width, $height)));
    }

    public function testAPageLiesOrStandsAsTheDrawingDoes(): void
    {
        self::assertMatchesRegularExpression('~/MediaBox\s*\[\s*0 0 841\.\d+ 595\.\d+~', self::raster()->pdf(self::svg(900, 600), 'A4'));
        self::assertMatchesRegularExpression('~/MediaBox\s*\[\s*0 0 595\.\d+ 841\.\d+~', self::raster()->pdf(self::svg(600, 900), 'A4'));
        $this->expectExceptionMessage('The paper is one of A4, A3, A2, A1, A0.');
        self::raster()->pdf(self::svg(600, 900), 'Letter');
    }

    public function testAPictureHasTheWidthThatIsAskedForAndNeverTooManyPixels(): void
    {
        self::assertSame(333, getimagesizefromstring(self::raster()->png(self::svg(900, 600), 333))[0] ?? 0);
        self::assertSame(1800, getimagesizefromstring(self::raster()->png(self::svg(900, 600)))[0] ?? 0);
        self::assertLessThanOrEqual(8000, getimagesizefromstring(self::raster()->png(self::svg(20000, 100)))[0] ?? 99999);
    }

    /** @return iterable<string, array{string}> */
    public static function typefaces(): iterable
    {
        yield 'text' => ["'Commissioner','Commissioner Variable',sans-serif"];
        yield 'code' => ["'Source Code Pro','Source Code Pro Variable',monospace"];
        yield 'titles' => ["'Marcellus',serif"];
    }

    #[DataProvider('typefaces')]
    public function testLettersAreDrawnAndNotBoxes(string $family): void
    {
        $drawn = static fn (string $words): string => self::raster()->png(
            '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="40"><text x="4" y="30" style="font:400 24px '.$family.'">'.$words.'</text></svg>',
        );
        $blank = $drawn('');
        foreach ([['n', 'u'], ['E', 'F'], ['ő', 'ű'], ['Ł', 'Ś']] as [$one, $other]) {
            self::assertNotSame($blank, $drawn($one), "$one is drawn");
            self::assertNotSame($drawn($one), $drawn($other), "$one is no box");
        }
    }

    /** Pango passes over files that it cannot draw with, and takes any other typeface, without a word. */
    #[DataProvider('typefaces')]
    public function testTheTypefacesAreOurs(string $family): void
    {
        $drawn = static fn (string $family, int $weight): string => self::raster()->png(
            '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="40"><text x="4" y="30" '
                .'style="font:'.$weight.' 24px '.$family.'">Reading 12</text></svg>',
        );
        foreach (['sans-serif', 'serif', 'monospace'] as $other) {
            self::assertNotSame($drawn($other, 400), $drawn($family, 400), "not only $other");
        }
        if (!str_contains($family, 'Marcellus')) {
            self::assertNotSame($drawn($family, 400), $drawn($family, 600), 'what is of a key is set in heavier letters');
        }
    }

    public function testWhatIsNoDrawingIsSaid(): void
    {
        $this->expectExceptionMessage('The picture could not be made:');
        self::raster()->png('not a drawing');
    }
}
