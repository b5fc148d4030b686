<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

/** The dialects of SQL that a structure script may be written in. */
enum Dialect: string
{
    case MariaDb = 'mariadb';
    case MySql = 'mysql';
    case PostgreSql = 'postgresql';
    case Sqlite = 'sqlite';
    case Standard = 'standard';

    private const SIGNS = [
        'mariadb' => '/\bMariaDB\b|current_timestamp\(\)|\/\*M!|COLLATE=utf8mb4_(?:unicode|general)_ci/i',
        'mysql' => '/`\w+`|\bAUTO_INCREMENT\b|\bENGINE\s*=|\/\*!\d{5}|^DELIMITER\b/im',
        'postgresql' => '/\bCOMMENT\s+ON\b|\bsearch_path\b|::\w|\bcharacter varying\b|\bALTER TABLE ONLY\b|\bOWNER TO\b|\$\w*\$|\b(?:big)?serial\b|\btimestamptz\b|\bPostgreSQL\b/i',
        'sqlite' => '/\bAUTOINCREMENT\b|\bWITHOUT\s+ROWID\b|^PRAGMA\b|\bsqlite_/im',
    ];

    /** Guesses from the first part of a script, by words that only one dialect has; standard SQL when there is none. */
    public static function guess(string $head): self
    {
        $scores = array_map(static fn (string $signs): int => (int) preg_match_all($signs, $head), self::SIGNS);
        // What MySQL's family shares counts for MariaDB as well, once anything tells it apart.
        if ($scores['mariadb'] > 0 && $scores['mysql'] > 0) {
            $scores['mariadb'] += $scores['mysql'];
        } else {
            $scores['mariadb'] = 0;
        }
        arsort($scores);

        return 0 === reset($scores) ? self::Standard : self::from((string) key($scores));
    }

    /** Backslashes escape within texts, backticks quote names, `#` begins a comment. */
    public function isMySqlLike(): bool
    {
        return self::MariaDb === $this || self::MySql === $this;
    }

    public function defaultSchema(): string
    {
        return match ($this) {
            self::PostgreSql => 'public',
            self::Sqlite => 'main',
            default => '',
        };
    }

    public function inWords(): string
    {
        return ['mariadb' => 'MariaDB', 'mysql' => 'MySQL', 'postgresql' => 'PostgreSQL', 'sqlite' => 'SQLite', 'standard' => 'standard SQL'][$this->value];
    }
}
