<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

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
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;

/** SQLite takes a type as advice. What it does with one is ruled by section 3.1 of its page on datatypes. */
class SqliteDialect extends Dialect
{
    public function name(): string
    {
        return 'sqlite';
    }

    public function label(): string
    {
        return 'SQLite';
    }

    public function rank(): int
    {
        return 40;
    }

    public function telltales(): array
    {
        return SqliteTelltales::own();
    }

    public function heads(): array
    {
        return ['SQLite format 3' => 'an SQLite database'];
    }

    public function schemes(): array
    {
        return ['sqlite' => 0, 'sqlite3' => 0];
    }

    public function endings(): array
    {
        return ['sqlite', 'sqlite3', 'db', 'db3'];
    }

    /** A statement ends at NUL, even within quotation marks: such a text is written by its bytes. */
    public function literal(string $text): string
    {
        return str_contains($text, "\0") ? "CAST(x'".bin2hex($text)."' AS TEXT)" : parent::literal($text);
    }

    public function reader(Rows $rows, string $database): Reader
    {
        return new SqliteReader($rows);
    }

    public function asking(): AskSql
    {
        return new SqliteAskSql($this);
    }

    public function profiling(): ProfileSql
    {
        return new SqliteProfileSql($this);
    }

    public function grammar(): Grammar
    {
        return new SqliteGrammar();
    }

    public function types(): NativeTypes
    {
        return new SqliteTypes($this);
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new SqliteScriptSql($this, $options);
    }

    protected function type(string $written): Type
    {
        $text = TypeText::of($written);
        $upper = strtoupper($written);
        $has = static fn (string ...$parts): bool => [] !== array_filter($parts, static fn (string $part): bool => str_contains($upper, $part));
        $family = match (true) {
            '' === $upper => TypeFamily::Text,
            $has('INT') => TypeFamily::Whole,
            $has('CHAR', 'CLOB', 'TEXT') => TypeFamily::Text,
            $has('BLOB') => TypeFamily::Bytes,
            $has('REAL', 'FLOA', 'DOUB') => TypeFamily::Number,
            $has('BOOL') => TypeFamily::Flag,
            $has('DATE', 'TIME') => TypeFamily::Time,
            $has('JSON') => TypeFamily::Document,
            default => TypeFamily::Number,
        };

        return new Type($family, $written, $text->name, $text->first(), $text->second());
    }

    /**
     * A name that the engine does not know gets what its letters say: `string` keeps numbers, `floating point` whole ones ("Datatypes In SQLite", 3.1).
     */
    public function unusual(Type $type): string
    {
        $upper = strtoupper($type->name);
        $whole = 1 === preg_match('/\b(?:INT|INTEGER|(?:TINY|SMALL|MEDIUM|BIG)INT|INT[248])\b/', $upper);
        $number = 1 === preg_match('/REAL|FLOA|DOUB|NUM|DEC|FIXED|MONEY/', $upper);

        return match (true) {
            '' === $upper => '',
            TypeFamily::Whole === $type->family => $whole ? '' : 'the engine reads “int” in its name, and keeps whole numbers',
            TypeFamily::Number === $type->family && !$number => 'the engine does not know its name, and keeps what looks like a number as one: 007 becomes 7',
            default => '',
        };
    }

    protected function inWords(Type $type): string
    {
        $meant = null === $type->length ? '' : ' ('.$type->length.(null === $type->scale ? '' : ','.$type->scale).' is meant, not enforced)';

        return match (true) {
            '' === $type->written => 'anything',
            TypeFamily::Whole === $type->family => 'whole number',
            TypeFamily::Text === $type->family => 'text'.$meant,
            TypeFamily::Bytes === $type->family => 'bytes',
            TypeFamily::Flag === $type->family => 'yes or no (0 or 1)',
            TypeFamily::Time === $type->family => (str_contains($type->name, 'time') ? 'date and time' : 'date').', as text or number',
            TypeFamily::Document === $type->family => 'JSON document, as text',
            1 === preg_match('/real|floa|doub/', $type->name) => 'number, approximate (15 digits)',
            default => 'number'.$meant,
        };
    }

    public function capabilities(): Capabilities
    {
        return new Capabilities('main', 'main', primaryNamed: false, emptyKeys: true, sorted: false, traits: true, numbers: 'INTEGER', meanings: false);
    }

    public function altering(ScriptOptions $options = new ScriptOptions()): AlterSql
    {
        return new SqliteAlterSql($this, $this->writing($options));
    }
}
