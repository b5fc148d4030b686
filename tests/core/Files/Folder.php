<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Files;

/** A folder of made-up files, gone after the test. */
final readonly class Folder
{
    public string $path;

    /** @param array<string, string> $files name → content */
    public function __construct(array $files)
    {
        $this->path = sys_get_temp_dir().'/fasti-'.bin2hex(random_bytes(6));
        mkdir($this->path);
        foreach ($files as $name => $content) {
            file_put_contents($this->path.'/'.$name, $content);
        }
    }

    public function __destruct()
    {
        foreach (glob($this->path.'/*') ?: [] as $file) {
            unlink($file);
        }
        rmdir($this->path);
    }
}
