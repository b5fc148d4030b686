<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Dialect\Telltale;

/** What tells that a script is of PostgreSQL. */
final class PostgreSqlTelltales
{
    /** @return list<Telltale> */
    public static function own(): array
    {
        return [
            new Telltale('/\bPostgreSQL\b/', 4, 'its name', anywhere: true),
            new Telltale('/::\s*"?[a-z_]\w*/i', 2, 'casts by ::'),
            new Telltale('/\b(?:big|small)?serial\b/i', 2, 'SERIAL'),
            new Telltale('/\btimestamptz\b|\bjsonb\b|\bbytea\b|\btsvector\b|\buuid_generate_v4\b/i', 3, 'types such as JSONB'),
            new Telltale('/\btimestamp(?:\(\d\))?\s+with(?:out)?\s+time\s+zone\b|\bcharacter\s+varying\b/i', 2, 'types such as TIMESTAMP WITH TIME ZONE'),
            new Telltale('/\b(?:var)?char\(\d+\)\[\]|\b(?:text|integer|int|bigint|uuid)\[\]/i', 3, 'lists'),
            new Telltale('/\bALTER\s+TABLE\s+ONLY\b|\bOWNER\s+TO\b|\bOWNED\s+BY\b/i', 3, 'OWNER TO'),
            new Telltale('/\$\w*\$/', 3, 'texts between $$', anywhere: true),
            new Telltale('/\bLANGUAGE\s+[\'"]?plpgsql\b|\bCREATE\s+EXTENSION\b|\bsearch_path\b|\bpg_catalog\b/i', 3, 'words of its own, such as plpgsql'),
            new Telltale('/\bCREATE\s+TYPE\s+\S+\s+AS\s+ENUM\b|\bCREATE\s+DOMAIN\b/i', 3, 'types of one\'s own'),
            new Telltale('/\bUSING\s+(?:btree|gin|gist|brin|hash)\s*\(|\bnextval\s*\(\s*\'/i', 3, 'USING btree'),
            new Telltale('/\bCOMMENT\s+ON\s+(?:TABLE|COLUMN)\b/i', 1, 'COMMENT ON'),
            new Telltale('/^\\\\(?:\.|connect|restrict|set|echo|i|c)\b/m', 3, 'lines of its client'),
            new Telltale('/\bFROM\s+stdin\s*;/i', 3, 'COPY … FROM stdin'),
            new Telltale('/\bGENERATED\s+(?:ALWAYS|BY\s+DEFAULT)\s+AS\s+IDENTITY\b/i', 1, 'AS IDENTITY'),
        ];
    }
}
