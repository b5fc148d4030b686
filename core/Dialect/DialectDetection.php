<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** Which dialect a script is written in, and what decided that. */
final readonly class DialectDetection
{
    /**
     * What scripts of one dialect hold and those of few others do: dialect or family → pattern → how much it tells, and its
     * name for people.
     */
    private const SIGNS = [
        'family:mysql' => [
            '/`[^`\n]+`/' => [2, 'names in backticks'],
            '/\bAUTO_INCREMENT\b/i' => [3, 'AUTO_INCREMENT'],
            '/\)\s*(?:ENGINE|TYPE)\s*=\s*\w+/i' => [3, 'ENGINE='],
            '~/\*!\d{5}~' => [3, 'comments for versions'],
            '/^DELIMITER\b/im' => [3, 'DELIMITER'],
            '/\bint(?:eger)?(?:\(\d+\))?\s+unsigned\b/i' => [2, 'UNSIGNED'],
            '/\b(?:tinyint|mediumint|mediumtext|longtext|tinytext|mediumblob|longblob)\b/i' => [2, 'types such as MEDIUMTEXT'],
            '/^\s*(?:UNIQUE\s+|FULLTEXT\s+)?(?:KEY|INDEX)\s+[`\w]*\s*\([^)]*\)\s*,?\s*$/im' => [2, 'KEY within a table'],
            '/\bCHARSET\s*=|\bON\s+UPDATE\s+CURRENT_TIMESTAMP\b/i' => [2, 'CHARSET='],
            '/^\s*#/m' => [1, 'comments after #'],
        ],
        'mariadb' => [
            '/\bMariaDB\b/' => [4, 'its name'],
            '~/\*M!~' => [4, 'comments for MariaDB'],
            '/\bcurrent_timestamp\(\)/' => [3, 'current_timestamp()'],
            '/\butf8mb4_uca1400\w*/i' => [3, 'collations such as utf8mb4_uca1400_ai_ci'],
            '/\bCREATE\s+OR\s+REPLACE\s+TABLE\b|\bWITH\s+SYSTEM\s+VERSIONING\b|\bPERSISTENT\b|\bPAGE_CHECKSUM\b|\bENGINE\s*=\s*Aria\b/i' => [
                3,
                'CREATE OR REPLACE TABLE and its kin',
            ],
            '/\binet6\b|\b(?:ADD|DROP|CHANGE|MODIFY)\s+(?:COLUMN\s+|INDEX\s+|KEY\s+)?IF\s+(?:NOT\s+)?EXISTS\b/i' => [2, 'IF EXISTS within ALTER TABLE'],
        ],
        'mysql' => [
            '/^-- MySQL (?:dump|Script)/m' => [4, 'its name'],
            '/\butf8mb4_0900_\w+/i' => [4, 'collations such as utf8mb4_0900_ai_ci'],
            '~/\*!80\d{3}~' => [3, 'comments for MySQL 8'],
            '/\bON UPDATE CURRENT_TIMESTAMP\b(?!\()|\bDEFAULT CURRENT_TIMESTAMP\b(?!\()/' => [1, 'CURRENT_TIMESTAMP without parentheses'],
            '/\A(?!.*`\w+` (?:big|small|medium|tiny)?int\(\d+\)).*^[^\n]*`\w+` (?:big|small|medium)?int\b(?!\()/sm' => [
                2,
                'whole numbers without display widths',
            ],
            '/\bVISIBLE\b|\bGTID_PURGED\b|\bENCRYPTION\s*=|\bSTORED NOT NULL\b|\bMEMBER\s+OF\b/i' => [2, 'words of MySQL 8'],
        ],
        'postgresql' => [
            '/\bPostgreSQL\b/' => [4, 'its name'],
            '/::\s*"?[a-z_]\w*/i' => [2, 'casts by ::'],
            '/\b(?:big|small)?serial\b/i' => [2, 'SERIAL'],
            '/\btimestamptz\b|\bjsonb\b|\bbytea\b|\btsvector\b|\buuid_generate_v4\b/i' => [3, 'types such as JSONB'],
            '/\btimestamp(?:\(\d\))?\s+with(?:out)?\s+time\s+zone\b|\bcharacter\s+varying\b/i' => [2, 'types such as TIMESTAMP WITH TIME ZONE'],
            '/\b(?:var)?char\(\d+\)\[\]|\b(?:text|integer|int|bigint|uuid)\[\]/i' => [3, 'lists'],
            '/\bALTER\s+TABLE\s+ONLY\b|\bOWNER\s+TO\b|\bOWNED\s+BY\b/i' => [3, 'OWNER TO'],
            '/\$\w*\$/' => [3, 'texts between $$'],
            '/\bLANGUAGE\s+[\'"]?plpgsql\b|\bCREATE\s+EXTENSION\b|\bsearch_path\b|\bpg_catalog\b/i' => [3, 'words of its own, such as plpgsql'],
            '/\bCREATE\s+TYPE\s+\S+\s+AS\s+ENUM\b|\bCREATE\s+DOMAIN\b/i' => [3, 'types of one\'s own'],
            '/\bUSING\s+(?:btree|gin|gist|brin|hash)\s*\(|\bnextval\s*\(\s*\'/i' => [3, 'USING btree'],
            '/\bCOMMENT\s+ON\s+(?:TABLE|COLUMN)\b/i' => [1, 'COMMENT ON'],
            '/^\\\\(?:\.|connect|restrict|set|echo|i|c)\b/m' => [3, 'lines of its client'],
            '/\bFROM\s+stdin\s*;/i' => [3, 'COPY … FROM stdin'],
            '/\bGENERATED\s+(?:ALWAYS|BY\s+DEFAULT)\s+AS\s+IDENTITY\b/i' => [1, 'AS IDENTITY'],
        ],
        'sqlite' => [
            '/\bsqlite_\w+|\bSQLite\b/' => [4, 'its name'],
            '/\bAUTOINCREMENT\b/i' => [3, 'AUTOINCREMENT'],
            '/\)\s*WITHOUT\s+ROWID\b|\)\s*STRICT\s*;/i' => [3, 'WITHOUT ROWID'],
            '/^\s*PRAGMA\s+\w+/im' => [3, 'PRAGMA'],
            '/\bCREATE\s+VIRTUAL\s+TABLE\b/i' => [3, 'virtual tables'],
            '/\bON\s+CONFLICT\s+(?:REPLACE|IGNORE|FAIL|ABORT|ROLLBACK)\b|\bINSERT\s+OR\s+(?:REPLACE|IGNORE)\b|\bCOLLATE\s+NOCASE\b/i' => [3, 'ON CONFLICT'],
            '/\bINTEGER\s+(?:NOT\s+NULL\s+)?PRIMARY\s+KEY\b/i' => [1, 'INTEGER PRIMARY KEY'],
            '/^\.(?:mode|tables|schema|read|headers|open|bail)\b/m' => [3, 'lines of its shell'],
        ],
        'sql' => [
            '/\bIDENTITY\s*\(\s*\d+\s*,\s*\d+\s*\)|\bN?VARCHAR\s*\(\s*MAX\s*\)|\bUNIQUEIDENTIFIER\b|\bDATETIME2\b|\[dbo\]|^GO\s*$/im' => [
                3,
                'words of SQL Server',
            ],
            '/\bN?VARCHAR2\b|\bNUMBER\s*\(|^\/\s*$|\bENABLE\s+VALIDATE\b/im' => [3, 'words of Oracle Database'],
        ],
    ];

    /**
     * @param list<string> $by      what decided, the most telling first; empty where nothing did
     * @param ?string      $instead another dialect that fits as well, by its name for people
     */
    private function __construct(public Grammar $grammar, public array $by, public ?string $instead)
    {
    }

    /**
     * @param array<string, Grammar> $grammars by the name of their dialect
     * @param string                 $fallback the dialect where nothing tells
     */
    public static function of(string $script, array $grammars, string $fallback): self
    {
        $bare = self::withoutTexts($script);
        $scores = $found = [];
        foreach (self::SIGNS as $of => $signs) {
            $scores[$of] = 0;
            $found[$of] = [];
            foreach ($signs as $pattern => [$weight, $name]) {
                // How often something stands there tells less than how much there is.
                $count = preg_match_all(
                    $pattern,
                    str_starts_with($name, 'its name') || str_contains($name, 'comments') || str_contains($name, '$$') ? $script : $bare,
                );
                if ($count > 0) {
                    $scores[$of] += $weight * (1 + (int) log($count, 4));
                    $found[$of][$name] = $weight * $count;
                }
            }
            arsort($found[$of]);
        }
        $members = array_keys(array_filter($grammars, static fn (Grammar $grammar): bool => 'mysql' === $grammar->family));
        $total = [];
        foreach ($grammars as $name => $grammar) {
            $family = '' === $grammar->family ? 0 : $scores['family:'.$grammar->family] ?? 0;
            $total[$name] = ($scores[$name] ?? 0) + $family;
        }
        arsort($total);
        $best = (string) array_key_first($total);
        if (0 === $total[$best]) {
            return new self($grammars[$fallback], [], null);
        }
        $instead = null;
        if ('' !== $grammars[$best]->family) {
            $own = array_map(static fn (string $name): int => $scores[$name] ?? 0, array_combine($members, $members));
            if (1 === \count(array_unique($own))) {
                // What they share tells that it is one of them, and nothing more.
                $best = $members[0];
                $instead = $grammars[$members[1] ?? $members[0]]->label;
            }
        } else {
            $rivals = array_keys(array_filter(
                $total,
                static fn (int $score, string $name): bool => $score === $total[$best] && $name !== $best,
                \ARRAY_FILTER_USE_BOTH,
            ));
            $instead = [] === $rivals ? null : $grammars[$rivals[0]]->label;
        }
        $family = 'family:'.$grammars[$best]->family;

        return new self($grammars[$best], \array_slice([...array_keys($found[$best] ?? []), ...array_keys($found[$family] ?? [])], 0, 4), $instead);
    }

    /** What stands in texts and comments says nothing of the dialect around them. */
    private static function withoutTexts(string $script): string
    {
        return (string) preg_replace(['~/\\*(?!M?!).*?\\*/~s', '/^\s*--[^\n]*/m', "/'(?:[^'\\\\\n]|''|\\\\.)*'/"], [' ', '', "''"], $script);
    }

    /** In a sentence. */
    public function inWords(): string
    {
        if ([] === $this->by) {
            return \sprintf('Nothing in the script tells its dialect, so it was read as %s. Name the dialect if that is not it.', $this->grammar->label);
        }

        return \sprintf('It was read as %s, by %s.', $this->grammar->label, self::listed($this->by))
            .(null === $this->instead ? '' : \sprintf(' It may be %s as well; name the dialect if it is.', $this->instead));
    }

    /** @param list<string> $items */
    private static function listed(array $items): string
    {
        $last = array_pop($items);

        return [] === $items ? (string) $last : implode(', ', $items).' and '.$last;
    }
}
