<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/**
 * Where a source is and how it is reached: a server (`host`, `port`, `database`, `account`), or files (`path`).
 *
 * `database` may be empty: every schema that the account may read; an engine that needs one falls back to that named
 * like the account. `engine` is the name of a dialect, `files` for scripts, sheets, documents and CSV. `dialect` is that of
 * SQL scripts, empty to work it out.
 */
final readonly class Target
{
    public const FILES = 'files';

    public function __construct(
        public string $engine,
        public string $host = '',
        public int $port = 0,
        public string $database = '',
        public string $account = '',
        #[\SensitiveParameter]
        public string $secret = '',
        public string $path = '',
        public string $dialect = '',
    ) {
    }

    /** The path of a file or folder; which kind of file it is shows when it is opened. */
    public static function files(string $path, string $dialect = ''): self
    {
        return new self(self::FILES, path: $path, dialect: $dialect);
    }
}
