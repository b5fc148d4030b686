<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Symfony\Component\Process\Process;

/** Turns a standalone drawing into a PNG or a PDF with librsvg, using the typefaces that ship with the application. */
final readonly class Raster
{
    /** In mm, upright. */
    public const PAPERS = ['A4' => [210, 297], 'A3' => [297, 420], 'A2' => [420, 594], 'A1' => [594, 841], 'A0' => [841, 1189]];
    /** What is left of a sheet inside its margins, width by height. */
    public const SHAPE = 825 / 578;
    private const MOST_PIXELS = 12000;
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
        $dir = $this->projectDir.'/var/run/fonts';
        if (!is_dir($dir)) {
            mkdir($dir, 0o755, true);
        }
        $config = $dir.'/fonts.conf';
        if (!is_file($config)) {
            file_put_contents($config, \sprintf(
                '<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig><dir>%s</dir><cachedir>%s</cachedir></fontconfig>',
                htmlspecialchars($this->projectDir.'/public/build/fonts'),
                htmlspecialchars($dir),
            ));
        }
        $process = new Process(['rsvg-convert', '--unlimited', ...$options], null, ['FONTCONFIG_FILE' => $config], $svg, 120);
        $process->run();
        if (!$process->isSuccessful()) {
            throw new \RuntimeException('The picture could not be made: '.(trim($process->getErrorOutput()) ?: 'librsvg is not installed; bin/prepare installs it').'.');
        }

        return $process->getOutput();
    }
}
