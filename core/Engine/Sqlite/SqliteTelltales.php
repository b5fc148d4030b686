<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Dialect\Telltale;

/** What tells that a script is of SQLite. */
final class SqliteTelltales
{
    /** @return list<Telltale> */
    public static function own(): array
    {
        return [
            new Telltale('/\bsqlite_\w+|\bSQLite\b/', 4, 'its name', anywhere: true),
            new Telltale('/\bAUTOINCREMENT\b/i', 3, 'AUTOINCREMENT'),
            new Telltale('/\)\s*WITHOUT\s+ROWID\b|\)\s*STRICT\s*;/i', 3, 'WITHOUT ROWID'),
            new Telltale('/^\s*PRAGMA\s+\w+/im', 3, 'PRAGMA'),
            new Telltale('/\bCREATE\s+VIRTUAL\s+TABLE\b/i', 3, 'virtual tables'),
            new Telltale(
                '/\bON\s+CONFLICT\s+(?:REPLACE|IGNORE|FAIL|ABORT|ROLLBACK)\b|\bINSERT\s+OR\s+(?:REPLACE|IGNORE)\b|\bCOLLATE\s+NOCASE\b/i',
                3,
                'ON CONFLICT',
            ),
            new Telltale('/\bINTEGER\s+(?:NOT\s+NULL\s+)?PRIMARY\s+KEY\b/i', 1, 'INTEGER PRIMARY KEY'),
            new Telltale('/^\.(?:mode|tables|schema|read|headers|open|bail)\b/m', 3, 'lines of its shell'),
        ];
    }
}
