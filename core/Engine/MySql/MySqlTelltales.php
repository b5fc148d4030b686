<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

use Fasti\Core\Dialect\Telltale;

/** What tells that a script is of MySQL, or of the family that it shares with MariaDB. */
final class MySqlTelltales
{
    /** @return list<Telltale> */
    public static function shared(): array
    {
        return [
            new Telltale('/`[^`\n]+`/', 2, 'names in backticks', shared: true),
            new Telltale('/\bAUTO_INCREMENT\b/i', 3, 'AUTO_INCREMENT', shared: true),
            new Telltale('/\)\s*(?:ENGINE|TYPE)\s*=\s*\w+/i', 3, 'ENGINE=', shared: true),
            new Telltale('~/\*!\d{5}~', 3, 'comments for versions', anywhere: true, shared: true),
            new Telltale('/^DELIMITER\b/im', 3, 'DELIMITER', shared: true),
            new Telltale('/\bint(?:eger)?(?:\(\d+\))?\s+unsigned\b/i', 2, 'UNSIGNED', shared: true),
            new Telltale('/\b(?:tinyint|mediumint|mediumtext|longtext|tinytext|mediumblob|longblob)\b/i', 2, 'types such as MEDIUMTEXT', shared: true),
            new Telltale('/^\s*(?:UNIQUE\s+|FULLTEXT\s+)?(?:KEY|INDEX)\s+[`\w]*\s*\([^)]*\)\s*,?\s*$/im', 2, 'KEY within a table', shared: true),
            new Telltale('/\bCHARSET\s*=|\bON\s+UPDATE\s+CURRENT_TIMESTAMP\b/i', 2, 'CHARSET=', shared: true),
            new Telltale('/^\s*#/m', 1, 'comments after #', anywhere: true, shared: true),
        ];
    }

    /** @return list<Telltale> */
    public static function own(): array
    {
        return [
            new Telltale('/^-- MySQL (?:dump|Script)/m', 4, 'its name', anywhere: true),
            new Telltale('/\butf8mb4_0900_\w+/i', 4, 'collations such as utf8mb4_0900_ai_ci'),
            new Telltale('~/\*!80\d{3}~', 3, 'comments for MySQL 8', anywhere: true),
            new Telltale('/\bON UPDATE CURRENT_TIMESTAMP\b(?!\()|\bDEFAULT CURRENT_TIMESTAMP\b(?!\()/', 1, 'CURRENT_TIMESTAMP without parentheses'),
            new Telltale(
                '/\A(?!.*`\w+` (?:big|small|medium|tiny)?int\(\d+\)).*^[^\n]*`\w+` (?:big|small|medium)?int\b(?!\()/sm',
                2,
                'whole numbers without display widths',
            ),
            new Telltale('/\bVISIBLE\b|\bGTID_PURGED\b|\bENCRYPTION\s*=|\bSTORED NOT NULL\b|\bMEMBER\s+OF\b/i', 2, 'words of MySQL 8'),
        ];
    }
}
