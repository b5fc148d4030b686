<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Dialect\Telltale;

/** What tells that a script is of MariaDB. */
final class MariaDbTelltales
{
    /** @return list<Telltale> */
    public static function own(): array
    {
        return [
            new Telltale('/\bMariaDB\b/', 4, 'its name', anywhere: true),
            new Telltale('~/\*M!~', 4, 'comments for MariaDB', anywhere: true),
            new Telltale('/\bcurrent_timestamp\(\)/', 3, 'current_timestamp()'),
            new Telltale('/\butf8mb4_uca1400\w*/i', 3, 'collations such as utf8mb4_uca1400_ai_ci'),
            new Telltale(
                '/\bCREATE\s+OR\s+REPLACE\s+TABLE\b|\bWITH\s+SYSTEM\s+VERSIONING\b|\bPERSISTENT\b|\bPAGE_CHECKSUM\b|\bENGINE\s*=\s*Aria\b/i',
                3,
                'CREATE OR REPLACE TABLE and its kin',
            ),
            new Telltale(
                '/\binet6\b|\b(?:ADD|DROP|CHANGE|MODIFY)\s+(?:COLUMN\s+|INDEX\s+|KEY\s+)?IF\s+(?:NOT\s+)?EXISTS\b/i',
                2,
                'IF EXISTS within ALTER TABLE',
            ),
        ];
    }
}
