<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AlterSql;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Dialect\Capabilities;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ProfileSql;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Engine\MySql\MySqlTelltales;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\TypeWords;

/** MariaDB; MySQL differs from it in few things. */
class MariaDbDialect extends Dialect
{
    /** Type → what its users say of it. */
    private const UNUSUAL = [
        'set' => 'a value holds several of its members, and the order of the list decides how they are stored',
        'year' => 'it holds 1901 to 2155 only, and two digits are taken for four',
        'tinyblob' => 'it holds 255 bytes at most',
        'tinytext' => 'it holds 255 bytes at most, which are fewer letters where these take more than one',
        'geometrycollection' => 'a value holds shapes of several kinds',
    ];

    private const BITS = ['tinyint' => 8, 'smallint' => 16, 'mediumint' => 24, 'int' => 32, 'integer' => 32, 'bigint' => 64];
    private const EXACT = ['decimal', 'numeric', 'dec', 'fixed'];
    private const TEXT_LIMITS = ['tinytext' => '255 bytes', 'text' => '64 KB', 'mediumtext' => '16 MB', 'longtext' => '4 GB'];
    private const BYTES_LIMITS = ['tinyblob' => '255 bytes', 'blob' => '64 KB', 'mediumblob' => '16 MB', 'longblob' => '4 GB'];
    private const TIMES = ['datetime' => 'date and time', 'timestamp' => 'instant', 'time' => 'time of day or duration'];
    private const SPATIAL = [
        'point' => 'point on a map', 'linestring' => 'line on a map', 'polygon' => 'area on a map', 'geometry' => 'shape on a map',
        'multipoint' => 'points on a map', 'multilinestring' => 'lines on a map', 'multipolygon' => 'areas on a map', 'geometrycollection' => 'shapes on a map',
    ];
    private const PLAIN = [
        'date' => 'date', 'year' => 'year', 'json' => 'JSON document', 'uuid' => 'UUID', 'inet4' => 'IPv4 address', 'inet6' => 'IP address',
        'float' => 'number, approximate (7 digits)', 'double' => 'number, approximate (15 digits)', 'boolean' => 'yes or no',
    ];

    public function name(): string
    {
        return 'mariadb';
    }

    public function label(): string
    {
        return 'MariaDB';
    }

    public function schemes(): array
    {
        return ['mariadb' => 3306];
    }

    public function rank(): int
    {
        return 10;
    }

    public function telltales(): array
    {
        return [...MySqlTelltales::shared(), ...MariaDbTelltales::own()];
    }

    public function quoted(string $name): string
    {
        return Quotes::around($name, '`');
    }

    /**
     * A backslash is doubled: where NO_BACKSLASH_ESCAPES is set, which Fasti's own sessions never have, that is another text, and still no
     * more than a text.
     */
    public function literal(string $text): string
    {
        return Quotes::around(str_replace('\\', '\\\\', $text), "'");
    }

    public function reader(Rows $rows, string $database): Reader
    {
        return new MariaDbReader($rows, $database);
    }

    public function asking(): AskSql
    {
        return new MariaDbAskSql($this);
    }

    public function profiling(): ProfileSql
    {
        return new MariaDbProfileSql($this);
    }

    public function grammar(): Grammar
    {
        return new MariaDbGrammar();
    }

    public function types(): NativeTypes
    {
        return new MariaDbTypes($this);
    }

    public function longestName(): int
    {
        return 64;
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new MariaDbScriptSql($this, $options);
    }

    protected function type(string $written): Type
    {
        $text = TypeText::of($written);
        $name = $text->name;
        $first = $text->first();
        $second = $text->second();

        return match (true) {
            'tinyint' === $name && 1 === $first && !$text->unsigned => new Type(TypeFamily::Whole, $written, $name, 1, bits: 8),
            isset(self::BITS[$name]) => new Type(TypeFamily::Whole, $written, $name, bits: self::BITS[$name], unsigned: $text->unsigned),
            \in_array($name, self::EXACT, true) => new Type(TypeFamily::Number, $written, $name, $first ?? 10, $second ?? 0, unsigned: $text->unsigned),
            \in_array($name, ['float', 'double', 'real'], true) => new Type(TypeFamily::Number, $written, $name, unsigned: $text->unsigned),
            'varchar' === $name => new Type(TypeFamily::Text, $written, $name, $first ?? 0),
            'char' === $name => new Type(TypeFamily::Text, $written, $name, $first ?? 1),
            \in_array($name, ['varbinary', 'binary'], true) => new Type(TypeFamily::Bytes, $written, $name, $first ?? 1),
            'bit' === $name => new Type(TypeFamily::Flag, $written, $name, $first ?? 1),
            \in_array($name, ['enum', 'set'], true) => new Type(TypeFamily::Text, $written, $name, members: $text->members(), several: 'set' === $name),
            \in_array($name, ['date', 'year', 'datetime', 'timestamp', 'time'], true) => new Type(TypeFamily::Time, $written, $name, scale: $first ?? 0),
            default => new Type(self::family($name, $written), $written, $name),
        };
    }

    private static function family(string $name, string $written): TypeFamily
    {
        return match (true) {
            isset(self::TEXT_LIMITS[$name]) => TypeFamily::Text,
            isset(self::BYTES_LIMITS[$name]) => TypeFamily::Bytes,
            'json' === $name => TypeFamily::Document,
            'boolean' === $name => TypeFamily::Flag,
            isset(self::SPATIAL[$name]) => TypeFamily::Spatial,
            default => '' === $written ? TypeFamily::Text : TypeFamily::Other,
        };
    }

    public function unusual(Type $type): string
    {
        return match (true) {
            // A bit alone is a flag.
            'bit' === $type->name && ($type->length ?? 1) > 1 => 'programs get its bits as bytes',
            1 === preg_match('/^(?:float|double)\s*\(\d+,/i', $type->written) => 'places of a floating number are given up by the engine',
            default => self::UNUSUAL[$type->name] ?? '',
        };
    }

    protected function inWords(Type $type): string
    {
        $name = $type->name;

        return match (true) {
            'tinyint' === $name && 1 === $type->length => 'yes or no (0 or 1)',
            null !== $type->bits => TypeWords::whole($type->bits, $type->unsigned),
            TypeFamily::Number === $type->family && null !== $type->length => TypeWords::number($type->length, $type->scale ?? 0, $type->unsigned),
            'varchar' === $name => TypeWords::text($type->length),
            'char' === $name => TypeWords::fixedText($type->length ?? 1),
            isset(self::TEXT_LIMITS[$name]) => 'long text, up to '.self::TEXT_LIMITS[$name],
            isset(self::BYTES_LIMITS[$name]) => 'bytes, up to '.self::BYTES_LIMITS[$name],
            'varbinary' === $name => 'bytes, up to '.Amount::count($type->length ?? 1),
            'binary' === $name => Amount::of(max(1, $type->length ?? 1), 'byte'),
            'bit' === $name => 1 === $type->length ? 'one bit (0 or 1)' : $type->length.' bits',
            'enum' === $name || 'set' === $name => TypeWords::members($type->members, $type->several),
            isset(self::TIMES[$name]) => self::TIMES[$name].TypeWords::fraction($type->scale ?? 0),
            isset(self::PLAIN[$name]) => self::PLAIN[$name].($type->unsigned ? ', not negative' : ''),
            default => self::SPATIAL[$name] ?? $type->written,
        };
    }

    public function capabilities(): Capabilities
    {
        return new Capabilities(
            primary: 'PRIMARY', ownConditions: true, setsChanged: true, storage: 'InnoDB', foreignKeysIndexed: true, longestKey: 3072,
            longestUnique: $this->longestUnique(), now: 'current_timestamp()',
            nowTo: 'current_timestamp(%d)', today: 'curdate()',
        );
    }

    /** Longer ones are told apart by their hashes since 10.4. */
    protected function longestUnique(): ?int
    {
        return null;
    }

    public function altering(ScriptOptions $options = new ScriptOptions()): AlterSql
    {
        return new MariaDbAlterSql($this, $this->writing($options));
    }
}
