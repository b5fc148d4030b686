<?php

declare(strict_types=1);

namespace Fasti\Diagram;

/** The typefaces of a drawing that has to stand alone, as data URLs. */
final readonly class Fonts
{
    private const FILES = [
        'Commissioner' => 'commissioner-latin-wght-normal',
        'Source Code Pro' => 'source-code-pro-latin-wght-normal',
        'Marcellus' => 'marcellus-latin-400-normal',
    ];

    public function __construct(private string $projectDir)
    {
    }

    /** @return array<string, string> family → data URL; families whose file is missing are left out */
    public function embedded(): array
    {
        $fonts = [];
        foreach (self::FILES as $family => $file) {
            $bytes = @file_get_contents($this->projectDir.'/public/build/fonts/'.$file.'.woff2');
            if (false !== $bytes) {
                $fonts[$family] = 'data:font/woff2;base64,'.base64_encode($bytes);
            }
        }

        return $fonts;
    }
}
