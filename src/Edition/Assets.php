<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Work\JobFailed;

/** Styles, scripts and fonts, which ship with the edition. */
final class Assets extends EditionPart
{
    public function __construct(private readonly string $projectDir)
    {
    }

    public function begin(Folder $folder): void
    {
        $build = $this->projectDir.'/public/build';
        $manifest = json_decode((string) @file_get_contents($build.'/manifest.json'), true);
        foreach (['edition.css', 'edition.js', 'theme.js'] as $name) {
            $built = \is_array($manifest) ? $manifest['build/'.$name] ?? null : null;
            if (!\is_string($built)) {
                throw new JobFailed('The styles and scripts are not built yet. Run bin/prepare.');
            }
            $folder->copy($this->projectDir.'/public/'.$built, 'assets/'.$name);
        }
        $folder->copy($build.'/fonts', 'assets/fonts');
    }
}
