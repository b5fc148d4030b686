<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Dialect\Dialects;

final readonly class SqliteScratch implements ScratchServer
{
    public function engine(): string
    {
        return 'sqlite';
    }

    public function with(\Closure $try): mixed
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'fasti-scratch-');
        try {
            $pdo = new \PDO('sqlite:'.$path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true]);

            return $try(new Scratch($pdo, Dialects::of('sqlite'), 'main', 'PRAGMA foreign_keys = OFF', 'PRAGMA foreign_keys = ON'));
        } finally {
            is_file($path) && unlink($path);
        }
    }
}
