<?php

declare(strict_types=1);

/*
 * What this machine has that no file under version control can know: where the private database is, its password and the keys.
 * bin/prepare writes them; the environment wins over them.
 */

(static function (): void {
    $run = dirname(__DIR__).'/var/run';
    foreach ([
        'DATABASE_PORT' => 'database.port', 'DATABASE_PASSWORD' => 'database.secret', 'DATABASE_SOCKET' => 'database.socket', 'APP_SECRET' => 'app.secret',
        'FASTI_KEY' => 'connections.key',
    ] as $name => $file) {
        if (false === getenv($name) && !isset($_SERVER[$name]) && is_readable($run.'/'.$file)) {
            $_ENV[$name] = $_SERVER[$name] = trim((string) file_get_contents($run.'/'.$file));
        }
    }
})();
