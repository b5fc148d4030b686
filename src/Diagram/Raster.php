<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Symfony\Component\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

/** Turns a standalone drawing into a PNG or a PDF with librsvg, using the typefaces that ship with the application. */
final readonly class Raster
{
    /** In mm, upright. */
    public const PAPERS = ['A4' => [210, 297], 'A3' => [297, 420], 'A2' => [420, 594], 'A1' => [594, 841], 'A0' => [841, 1189]];
    /** What is left of a sheet inside its margins, width by height. */
    public const SHAPE = 825 / 578;
    /** Where the typefaces are in the cage. */
    private const FONTS = '/fonts';
    private const MOST_PIXELS = 8000;
    private const SCALE = 2.0;
    private const MARGIN = 8;
    /** A px of a drawing is to be at least so many mm on paper, for its letters to be read. */
    private const READABLE = 0.2;

    public function __construct(private string $projectDir)
    {
    }

    /**
     * @param int $width in px; 0 for twice the size of the drawing
     *
     * @throws \RuntimeException when librsvg is missing or fails
     */
    public function png(string $svg, int $width = 0): string
    {
        [$own, $height] = self::size($svg);
        $scale = 0 === $width ? self::SCALE : $width / $own;

        return $this->converted(['--zoom='.min($scale, self::MOST_PIXELS / max($own, $height)), '--format=png'], $svg);
    }

    /**
     * Vectors on one page, which lies or stands as the drawing does.
     *
     * @throws \RuntimeException
     */
    public function pdf(string $svg, string $paper): string
    {
        [$short, $long] = self::PAPERS[$paper] ?? throw new \RuntimeException('The paper is one of '.implode(', ', array_keys(self::PAPERS)).'.');
        [$width, $height] = self::size($svg);
        [$across, $down] = $width >= $height ? [$long, $short] : [$short, $long];
        $scale = min(($across - 2 * self::MARGIN) / $width, ($down - 2 * self::MARGIN) / $height);

        return $this->converted([
            '--format=pdf', "--page-width={$across}mm", "--page-height={$down}mm",
            '--width='.$width * $scale.'mm', '--height='.$height * $scale.'mm',
            '--left='.($across - $width * $scale) / 2 .'mm', '--top='.($down - $height * $scale) / 2 .'mm',
        ], $svg);
    }

    /** The smallest paper on which the letters of a drawing can be read. */
    public static function fitting(string $svg): string
    {
        [$width, $height] = self::size($svg);
        foreach (self::PAPERS as $paper => [$short, $long]) {
            if (($long - 16) / max($width, $height) >= self::READABLE && ($short - 16) / min($width, $height) >= self::READABLE) {
                return $paper;
            }
        }

        return 'A0';
    }

    /** @return array{float, float} */
    private static function size(string $svg): array
    {
        return 1 === preg_match('/<svg[^>]* width="([\d.]+)" height="([\d.]+)"/', $svg, $m) ? [max(1.0, (float) $m[1]), max(1.0, (float) $m[2])] : [1.0, 1.0];
    }

    /** @param list<string> $options */
    private function converted(array $options, string $svg): string
    {
        $cage = new Cage([$this->fonts() => self::FONTS], memory: 4096, seconds: 120, environment: ['FONTCONFIG_FILE' => self::FONTS.'/fonts.conf']);
        try {
            return $cage->run([Cage::program('rsvg-convert'), '--unlimited', ...$options], $svg);
        } catch (CageError $e) {
            throw new \RuntimeException('The picture could not be made: '.$e->getMessage(), 0, $e);
        }
    }

    /**
     * The typefaces, unpacked once, since Pango draws with no compressed ones, and a configuration of fontconfig that knows them.
     *
     * @return string their folder
     */
    private function fonts(): string
    {
        $packed = glob($this->projectDir.'/public/build/fonts/*.woff2') ?: [];
        $sizes = array_map(static fn (string $file): string => basename($file).filesize($file), $packed);
        $dir = $this->projectDir.'/var/run/fonts/'.substr(md5('readable '.implode(' ', $sizes)), 0, 8);
        if (!is_file($dir.'/fonts.conf')) {
            $new = $dir.'.'.getmypid();
            $files = new Filesystem();
            $files->mkdir($new);
            foreach ($packed as $file) {
                $files->copy($file, $new.'/'.basename($file));
                $unpacking = new Process(['woff2_decompress', $new.'/'.basename($file)]);
                if (0 !== $unpacking->run()) {
                    throw new \RuntimeException('The typeface '.basename($file).' could not be unpacked: '
                        .(trim($unpacking->getErrorOutput()) ?: 'woff2_decompress is not installed; bin/prepare installs it').'.');
                }
            }
            $files->remove(glob($new.'/*.woff2') ?: []);
            file_put_contents($new.'/fonts.conf', self::rules());
            // In the cage, somebody without rights reads them.
            $files->chmod($new, 0o755);
            $files->chmod(glob($new.'/*') ?: [], 0o644);
            // Where another request was quicker, its files are as good.
            if (!@rename($new, $dir)) {
                $files->remove($new);
            }
        }

        return $dir;
    }

    /**
     * The typefaces come in two files each, for the letters of most languages and for further ones, and the variable ones call themselves
     * by their thinnest cut. Here each file gets a family of its own, and the second stands in where the first has no such letter.
     */
    private static function rules(): string
    {
        $rules = '';
        foreach (['Commissioner' => 'commissioner', 'Source Code Pro' => 'source-code-pro', 'Marcellus' => 'marcellus'] as $family => $file) {
            foreach (['-latin-ext-' => $family.' Further', '-latin-' => $family] as $part => $name) {
                $not = '-latin-' === $part ? '<test name="file" compare="not_contains"><string>-latin-ext-</string></test>' : '';
                $rules .= '<match target="scan"><test name="file" compare="contains"><string>'.$file.$part.'</string></test>'.$not
                    .'<edit name="family" mode="assign"><string>'.$name.'</string></edit></match>';
            }
            $rules .= '<match target="pattern"><test name="family"><string>'.$family.'</string></test>'
                .'<edit name="family" mode="append" binding="strong"><string>'.$family.' Further</string></edit></match>';
        }

        return '<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig>'
            .'<dir>'.self::FONTS.'</dir><dir>/usr/share/fonts</dir><cachedir>'.Cage::WORK."</cachedir>$rules</fontconfig>";
    }
}
