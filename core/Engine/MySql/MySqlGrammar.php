<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\Surroundings;
use Fasti\Core\Dialect\TypeText;

/** Scripts of MySQL, and what those of MariaDB share with them. */
class MySqlGrammar extends Grammar
{
    private const TYPES = [
        'integer' => 'int', 'int1' => 'tinyint', 'int2' => 'smallint', 'int3' => 'mediumint', 'middleint' => 'mediumint', 'int4' => 'int', 'int8' => 'bigint',
        'dec' => 'decimal', 'numeric' => 'decimal', 'float4' => 'float', 'float8' => 'double',
        'fixed' => 'decimal', 'number' => 'decimal', 'bool' => 'tinyint(1)', 'boolean' => 'tinyint(1)', 'real' => 'double', 'double precision' => 'double',
        'character varying' => 'varchar', 'char varying' => 'varchar', 'varcharacter' => 'varchar', 'character' => 'char', 'nchar' => 'char',
        'nvarchar' => 'varchar', 'national char' => 'char', 'national character' => 'char', 'national varchar' => 'varchar', 'varchar2' => 'varchar',
        'national character varying' => 'varchar', 'national char varying' => 'varchar', 'nchar varchar' => 'varchar', 'nchar varying' => 'varchar',
        'long' => 'mediumtext', 'long varchar' => 'mediumtext', 'long char' => 'mediumtext', 'long varbinary' => 'mediumblob', 'long byte' => 'mediumblob',
        'clob' => 'longtext', 'serial' => 'bigint', 'raw' => 'varbinary', 'geometrycollection' => 'geometrycollection',
    ];
    private const STORAGES = [
        'innodb' => 'InnoDB',
        'myisam' => 'MyISAM',
        'memory' => 'MEMORY',
        'heap' => 'MEMORY',
        'aria' => 'Aria',
        'csv' => 'CSV',
        'archive' => 'ARCHIVE',
        'blackhole' => 'BLACKHOLE', 'merge' => 'MRG_MyISAM', 'mrg_myisam' => 'MRG_MyISAM', 'federated' => 'FEDERATED', 'ndb' => 'ndbcluster',
        'ndbcluster' => 'ndbcluster',
        'rocksdb' => 'ROCKSDB', 'connect' => 'CONNECT', 'columnstore' => 'Columnstore', 'tokudb' => 'TokuDB', 'spider' => 'SPIDER', 'sequence' => 'SEQUENCE'];
    /** Long texts and bytes, by how many bytes they may hold. */
    private const LONG = ['tiny' => 255, '' => 65_535, 'medium' => 16_777_215, 'long' => 4_294_967_295];

    public string $engine = 'mysql';
    public string $label = 'MySQL';
    public string $family = 'mysql';

    public function __construct()
    {
        parent::__construct();
        $this->signs->backslashes = true;
        $this->signs->doubleQuotedTexts = true;
        $this->signs->brackets = false;
        $this->signs->hashAndVersionComments = true;
        $this->signs->versionMarks = '/\\*!\\d{0,6}';
        $this->signs->delimiters = true;
        $this->signs->batches = false;
        $this->signs->digitNames = true;
        $this->structure->inlineIndexes = true;
        $this->structure->looseInlineIndexes = false;
        $this->structure->looseOptions = false;
        $this->structure->placesColumns = true;
        $this->structure->defaultBinding = 130;
        $this->catalog->keysAreIndexes = true;
        $this->catalog->indexesForeignKeys = true;
        $this->catalog->indexNames = 'first';
        $this->catalog->uniqueIndexesAreKeys = true;
        $this->structure->likeChooses = false;
        $this->catalog->likeCopies = true;
        $this->catalog->keepsOfQuery = true;
        $this->structure->cascades = false;
        $this->catalog->collationTellsCharset = true;
        $this->structure->bareIndexCalls = false;
        $this->structure->bareRoutines = true;
        $this->catalog->viewsTellRequired = true;
        $this->queries->systemSchemas = '/^(?:information_schema|performance_schema|mysql|sys)$/i';
        $this->queries->charsetTexts = true;
        $this->queries->delimitedTexts = false;
        $this->queries->hashedNames = false;
        $this->queries->aliasesInHaving = true;
        $this->catalog->withoutForeignKeys = '/^(?:MyISAM|MEMORY|Aria|CSV|ARCHIVE|MRG_MyISAM|BLACKHOLE)$/';
        $this->catalog->usualStorage = 'InnoDB';
        $this->catalog->usualCollation = 'utf8mb4_0900_ai_ci';
        $this->queries->binding = [
            '||' => 10, '&&' => 20, 'IS' => 50, 'LIKE' => 50, 'IN' => 50, 'BETWEEN' => 48, 'REGEXP' => 50, 'RLIKE' => 50, '|' => 72, '&' => 74, '<<' => 76,
            '>>' => 76,
            '->' => 140, '->>' => 140,
        ];
        $this->queries->bareFunctions = '/^(?:CURRENT_DATE|CURRENT_TIME|CURRENT_TIMESTAMP|LOCALTIME|LOCALTIMESTAMP|CURRENT_USER|CURRENT_ROLE'
            .'|UTC_DATE|UTC_TIME|UTC_TIMESTAMP)$/';
    }

    public function typing(): MySqlTyping
    {
        return new MySqlTyping();
    }

    public function type(string $base, string $options, string $after): string
    {
        $lower = strtolower((string) preg_replace('/\s+/', ' ', $base));
        $name = self::TYPES[$lower] ?? $lower;
        $national = 1 === preg_match('/^n(?:ational|char|varchar)/', $lower) ? ' national' : '';
        $options = trim($options);
        $options = \in_array($name, ['enum', 'set'], true) ? self::memberList($options) : (string) preg_replace('/\s+/', '', $options);
        $words = array_values(array_diff(preg_split('/\s+/', strtolower($after), -1, \PREG_SPLIT_NO_EMPTY) ?: [], ['signed']));
        if ('serial' === $lower) {
            $words = ['unsigned'];
        }
        // What these say shows in the character set alone.
        $words = array_values(array_diff($words, ['binary', 'ascii', 'unicode']));
        if (\in_array('byte', $words, true)) {
            $name = ['char' => 'binary', 'varchar' => 'varbinary', 'text' => 'blob'][$name] ?? $name;
            $words = array_values(array_diff($words, ['byte']));
        }
        if (\in_array('zerofill', $words, true) && !\in_array('unsigned', $words, true)) {
            array_unshift($words, 'unsigned');
        }
        [$name, $options] = $this->sized($name, $options, \in_array('unsigned', $words, true));

        return trim($name.('' === $options ? '' : "($options)").([] === $words ? '' : ' '.implode(' ', $words))).('' === $national ? '' : "\x07");
    }

    /** Members of an enumeration as the catalog lists them. */
    private static function memberList(string $list): string
    {
        preg_match_all("/(?:_\\w+\\s*)?(?:'((?:[^'\\\\]|\\\\.|'')*)'|\"((?:[^\"\\\\]|\\\\.|\"\")*)\"|[xX]'([0-9A-Fa-f]*)')/s", $list, $found, \PREG_SET_ORDER);
        $members = [];
        foreach ($found as $m) {
            $text = match (true) {
                isset($m[3]) => (string) hex2bin($m[3]),
                isset($m[2]) && '' !== $m[2] => str_replace(['""', '\\"'], '"', $m[2]),
                default => str_replace("''", "'", $m[1] ?? ''),
            };
            $text = strtr($text, ["\\'" => "'", '\\\\' => '\\', '\\n' => "\n", '\\t' => "\t", '\\"' => '"', '\\%' => '\\%', '\\_' => '\\_']);
            $members[] = Quotes::around(rtrim($text, ' '), "'");
        }

        return [] === $members ? $list : implode(',', $members);
    }

    /** @return array{string, string} name and options, with what the engine adds or leaves out */
    protected function sized(string $name, string $options, bool $unsigned): array
    {
        return match (true) {
            'decimal' === $name => [$name, match (true) {
                '' === $options => '10,0',
                str_contains($options, ',') => $options,
                default => $options.',0',
            }],
            'float' === $name && '' !== $options && !str_contains($options, ',') => [(int) $options > 24 ? 'double' : 'float', ''],
            \in_array($name, ['char', 'binary', 'bit'], true) && '' === $options => [$name, '1'],
            \in_array($name, ['datetime', 'timestamp', 'time'], true) && '0' === $options => [$name, ''],
            'int' === $name && !$unsigned && '' === $options => [$name, ''],
            1 === preg_match('/^(?:tiny|small|medium|big)?int$/', $name) && !('tinyint' === $name && '1' === $options) => [$name, ''],
            'year' === $name => [$name, ''],
            default => [$name, $options],
        };
    }

    public function serial(string $word): array
    {
        return 'serial' === strtolower($word) ? ['nullable' => false, 'auto' => true, 'unique' => true] : [];
    }

    public function expression(string $sql, Surroundings $around): string
    {
        return $this->writing()->expression($sql, $around);
    }

    protected function writing(): MySqlWriting
    {
        return new MySqlWriting($this);
    }

    public function default(string $default, string $type, ?Surroundings $around = null): ?string
    {
        $now = $this->now($default);
        if ($now !== $default) {
            return $now;
        }
        $writing = $this->writing();
        $value = $writing->value($default);
        $around ??= new Surroundings();
        if (null === $value) {
            $bare = 1 === preg_match('/^\((.*)\)$/s', $default, $m) && self::balanced($m[1]) ? trim($m[1]) : null;

            return null === $bare ? $writing->expression($default, $around) : $writing->inParentheses($bare, $around);
        }
        if ('null' === $value[0]) {
            return null;
        }

        return $this->literal($value[0], $value[1], TypeText::of($type), $type);
    }

    /** A value of a default as the catalog has it, by the type of its column. */
    protected function literal(string $kind, string $text, TypeText $type, string $of): string
    {
        $name = $type->name;
        // A default of a long text is kept as an expression, which is written with another quotation mark than a value.
        $mark = 1 === preg_match('/text$|blob$|^json$/', $name) ? "\\'" : "''";
        $quoted = static fn (string $text): string => "'".strtr($text, ['\\' => '\\\\', "'" => $mark, "\n" => '\n', "\r" => '\r', "\0" => '\0'])."'";
        if ('number' === $kind && 1 === preg_match('/^0x([0-9a-f]+)$/i', $text, $m)) {
            [$kind, $text] = 1 === preg_match('/int|decimal|double|float/', $name) ? ['number', (string) hexdec($m[1])] : ['text', (string) hex2bin($m[1])];
        }
        if ('bit' === $name) {
            $bits = match ($kind) {
                'bits' => ltrim($text, '0'),
                'text' => implode(
                    '',
                    array_map(static fn (string $byte): string => str_pad(decbin(\ord($byte)), 8, '0', \STR_PAD_LEFT), '' === $text ? [] : str_split($text)),
                ),
                default => decbin((int) $text),
            };

            return "b'".(ltrim($bits, '0') ?: '0')."'";
        }
        if ('bits' === $kind) {
            $kind = 'number';
            $text = (string) bindec($text);
        } elseif ('bytes' === $kind) {
            $kind = 'text';
            $text = $text;
        }
        if (1 === preg_match('/^(?:(?:tiny|small|medium|big)?int|decimal|float|double|year)$/', $name) && is_numeric($text)) {
            return str_contains($of, 'zerofill') ? str_pad(
                $this->number($text, $name, $type),
                $type->first() ?? 0,
                '0',
                \STR_PAD_LEFT,
            ) : $this->number($text, $name, $type);
        }
        if (1 === preg_match('/^(?:datetime|timestamp)$/', $name)) {
            return $quoted(self::moment($text, $type->first() ?? 0));
        }
        if ('date' === $name) {
            return $quoted(substr(self::moment($text, 0), 0, 10));
        }
        if ('time' === $name) {
            $text = 1 === preg_match('/^\d+$/', $text) ? implode(':', str_split(str_pad($text, 6, '0', \STR_PAD_LEFT), 2)) : $text;

            return $quoted(1 === preg_match('/^-?\d{1,3}:\d\d$/', $text) ? $text.':00' : $text);
        }
        if ('enum' === $name && 'number' === $kind) {
            return $quoted($type->members()[(int) $text - 1] ?? $text);
        }

        return $quoted('binary' === $name ? str_pad($text, $type->first() ?? 1, "\0") : $text);
    }

    private function number(string $text, string $name, TypeText $type): string
    {
        $scale = $type->second();
        if ('decimal' === $name || (null !== $scale && \in_array($name, ['float', 'double'], true))) {
            return self::rounded($text, $scale ?? 0);
        }
        if ('year' === $name) {
            $year = (int) $text;

            return (string) (match (true) {
                1 !== preg_match('/^\d{1,2}$/', $text) => $year,
                $year < 70 => 2000 + $year,
                default => 1900 + $year,
            });
        }
        if (\in_array($name, ['float', 'double'], true)) {
            $short = (string) (float) $text;

            return str_contains($short, 'E') ? strtolower(str_replace(['E+', '.0E'], ['e', 'E'], $short)) : $short;
        }

        return self::rounded($text, 0);
    }

    private static function rounded(string $text, int $scale): string
    {
        if (1 === preg_match('/^([+-]?)(\d*)(?:\.(\d*))?$/', $text, $m) && \strlen($m[3] ?? '') <= $scale) {
            $whole = ltrim($m[2], '0');
            $rest = str_pad($m[3] ?? '', $scale, '0');

            return ('-' === $m[1] ? '-' : '').('' === $whole ? '0' : $whole).(0 === $scale ? '' : '.'.$rest);
        }

        return number_format((float) $text, $scale, '.', '');
    }

    /** A date, with its time, from any of the ways in which one may be written. */
    private static function moment(string $text, int $decimals): string
    {
        if (1 === preg_match('/^(\d{4})(\d\d)(\d\d)(?:(\d\d)(\d\d)(\d\d))?$/', $text, $m)
            || 1 === preg_match('~^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[ T](\d{1,2}):(\d{1,2})(?::(\d{1,2})(?:\.(\d+))?)?)?$~', $text, $m)) {
            $tail = $decimals > 0 ? '.'.substr(str_pad($m[7] ?? '', $decimals, '0'), 0, $decimals) : '';

            return \sprintf('%04d-%02d-%02d %02d:%02d:%02d', $m[1], $m[2], $m[3], $m[4] ?? 0, $m[5] ?? 0, $m[6] ?? 0).$tail;
        }

        return $text;
    }

    public function now(string $expression): string
    {
        return 1 === preg_match(
            '/^(?:current_timestamp|now|localtimestamp|localtime)\s*(?:\(\s*(\d*)\s*\))?$/i',
            trim($expression, ' ()').(str_ends_with(rtrim($expression), ')') ? ')' : ''),
            $m,
        )
            || 1 === preg_match('/^\(?\s*(?:current_timestamp|now|localtimestamp|localtime)\s*(?:\(\s*(\d*)\s*\))?\s*\)?$/i', $expression, $m)
            ? $this->currentTime('0' === ($m[1] ?? '') ? '' : $m[1] ?? '') : $expression;
    }

    public function currentTime(string $decimals): string
    {
        return 'CURRENT_TIMESTAMP'.('' === $decimals ? '' : "($decimals)");
    }

    public function indexParts(array $parts, string $method): array
    {
        return match ($method) {
            'fulltext' => array_map(static fn (IndexPart $part): IndexPart => new IndexPart($part->column), $parts),
            'spatial' => array_map(static fn (IndexPart $part): IndexPart => new IndexPart($part->column, 32), $parts),
            default => $parts,
        };
    }

    public function indexMethod(Index $index, array $types): string
    {
        return $index->method;
    }

    public function storage(string $said): string
    {
        return self::STORAGES[strtolower($said)] ?? $said;
    }

    public function collated(string $type, ?string $charset, ?string $collation, string $words, ?string $of): array
    {
        if (str_ends_with($type, "\x07")) {
            $type = substr($type, 0, -1);
            $charset = $charset ?? 'utf8mb3';
        }
        $text = TypeText::of($type);
        if ('binary' === $charset && 1 === preg_match('/^(?:(var)?char|((?:tiny|medium|long)?)text)$/', $text->name, $m)) {
            $name = ['char' => 'binary', 'varchar' => 'varbinary'][$text->name] ?? ($m[2] ?? '').'blob';

            return [preg_replace('/^\w+/', $name, $type) ?? $type, null, null];
        }
        if (!$this->isText($type)) {
            return [$this->sizedLong($type, 1), null, null];
        }
        $charset = match (true) {
            1 === preg_match('/\bascii\b/', $words) => 'latin1',
            1 === preg_match('/\bunicode\b/', $words) => 'ucs2',
            default => $charset,
        };
        if (null !== $collation) {
            $collation = Charsets::collationNamed($collation);
        } elseif (null !== $charset) {
            $collation = 1 === preg_match('/\bbinary\b/', $words) ? Charsets::named($charset).'_bin' : Charsets::collation(
                $charset,
                (string) $this->catalog->usualCollation,
            );
        } elseif (1 === preg_match('/\bbinary\b/', $words)) {
            $collation = Charsets::ofCollation($of ?? (string) $this->catalog->usualCollation).'_bin';
        }
        // Where nothing is said of a table, it has the collation that is usual.
        if (null === $of && $collation === $this->catalog->usualCollation) {
            $collation = null;
        }
        $charset = null === $collation ? null : Charsets::ofCollation($collation);

        return [
            $this->sizedLong($type, Charsets::width($charset ?? Charsets::ofCollation($of ?? (string) $this->catalog->usualCollation))),
            $charset,
            $collation ?? $of,
        ];
    }

    /** TEXT(100) becomes the shortest type that holds as many letters. */
    private function sizedLong(string $type, int $width): string
    {
        if (1 !== preg_match('/^(text|blob)\((\d+)\)/', $type, $m)) {
            return $type;
        }
        foreach (self::LONG as $prefix => $most) {
            if ((int) $m[2] * $width <= $most) {
                return $prefix.$m[1];
            }
        }

        return 'long'.$m[1];
    }

    public function converted(string $type, ?string $from, ?string $to): string
    {
        if (1 !== preg_match('/^((?:tiny|medium)?)text$/', $type, $m) || null === $from || null === $to
            || Charsets::width(Charsets::ofCollation($from)) >= Charsets::width(Charsets::ofCollation($to))) {
            return $type;
        }

        return ['tiny' => 'text', '' => 'mediumtext', 'medium' => 'longtext'][$m[1]];
    }

    public function tableCollation(?string $charset, ?string $collation): ?string
    {
        return match (true) {
            null !== $collation => Charsets::collationNamed($collation),
            null === $charset => null,
            default => Charsets::collation($charset, (string) $this->catalog->usualCollation),
        };
    }

    public function primaryKeyName(string $table, ?string $said): ?string
    {
        return null;
    }

    public function primaryIndexName(?string $key): string
    {
        return 'PRIMARY';
    }

    public function foreignKeyName(string $table, array $columns, array $taken): string
    {
        $numbers = array_map(
            static fn (string $name): int => 1 === preg_match('/^'.preg_quote($table, '/').'_ibfk_(\d+)$/', $name, $m) ? (int) $m[1] : 0,
            $taken,
        );

        return $table.'_ibfk_'.(max([0, ...$numbers]) + 1);
    }

    public function columnCheck(string $table, string $column): array
    {
        return ['', null];
    }

    public function checkName(string $table, array $taken): string
    {
        for ($i = 1; \in_array($table.'_chk_'.$i, $taken, true); ++$i) {
            continue;
        }

        return $table.'_chk_'.$i;
    }

    public function partitionedWords(string $key, int $partitions): string
    {
        return '';
    }

    public function quotedName(string $name): string
    {
        return Quotes::around($name, '`');
    }

    public function parameters(array $parameters, string $kind): string
    {
        return implode(', ', array_map(
            static fn (array $p): string => trim(('procedure' === $kind ? ('' === $p['mode'] ? 'IN' : $p['mode']).' ' : '').$p['name'].' '.$p['type']),
            $parameters,
        ));
    }

    private static function balanced(string $text): bool
    {
        $depth = 0;
        foreach (str_split($text) as $sign) {
            $depth += ['(' => 1, ')' => -1][$sign] ?? 0;
            if ($depth < 0) {
                return false;
            }
        }

        return 0 === $depth;
    }
}
