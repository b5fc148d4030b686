<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Symfony\Component\Process\Process;

/** Turns a standalone drawing into a PNG with librsvg, using the typefaces that ship with the application. */
final readonly class Raster
{
    private const MOST_PIXELS = 12000;

    public function __construct(private string $projectDir)
    {
    }

    /** @throws \RuntimeException when librsvg is missing or fails */
    public function png(string $svg, float $scale = 2.0): string
    {
        if (1 === preg_match('/<svg[^>]* width="([\d.]+)" height="([\d.]+)"/', $svg, $m)) {
            $scale = min($scale, self::MOST_PIXELS / max(1.0, (float) $m[1], (float) $m[2]));
        }
        $dir = $this->projectDir.'/var/run/fonts';
        if (!is_dir($dir)) {
            mkdir($dir, 0o755, true);
        }
        $config = $dir.'/fonts.conf';
        if (!is_file($config)) {
            file_put_contents($config, \sprintf('<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig><dir>%s</dir><cachedir>%s</cachedir></fontconfig>', htmlspecialchars($this->projectDir.'/public/build/fonts'), htmlspecialchars($dir)));
        }
        $process = new Process(['rsvg-convert', '--zoom='.$scale, '--format=png'], null, ['FONTCONFIG_FILE' => $config], $svg, 60);
        $process->run();
        if (!$process->isSuccessful()) {
            throw new \RuntimeException('The picture could not be made: '.(trim($process->getErrorOutput()) ?: 'librsvg is not installed; bin/prepare installs it').'.');
        }

        return $process->getOutput();
    }
}
