<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;

/**
 * What is particular to an engine: how its types are read and said, how its names are quoted, how its catalog, its scripts
 * and its data are read. One folder an engine, in core/Engine, where Dialects finds it.
 *
 * What an engine does not have (files have no SQL, the standard no catalog of its own) stays as it is here.
 */
abstract class Dialect
{
    /** @var array<string, Type> by type as written */
    private array $types = [];

    /** The engine's name in catalogs, on command lines and in the register: `postgresql`. */
    abstract public function name(): string;

    /** Its name for people. */
    abstract public function label(): string;

    abstract protected function type(string $written): Type;

    /** A type in plain words, with the range that people would otherwise have to work out. */
    abstract protected function inWords(Type $type): string;

    /** @return list<string> other names it goes by on command lines and in catalogs */
    public function aliases(): array
    {
        return [];
    }

    /** Where it stands in lists: the smaller first, and among equals by the name for people. */
    public function rank(): int
    {
        return 100;
    }

    /** @return array<string, int> scheme of a connection URL → port */
    public function schemes(): array
    {
        return [];
    }

    /** @return list<string> endings of files that are databases of it */
    public function endings(): array
    {
        return [];
    }

    /** @return array<string, string> how files of it begin that are no scripts → what such a file is */
    public function heads(): array
    {
        return [];
    }

    /** @return list<Telltale> what tells that a script is of it */
    public function telltales(): array
    {
        return [];
    }

    /** @return array<string, string> the queries for catalog sheets, by the sheet that each gives: files in the folder `sheets` beside its class */
    final public function sheetQueries(): array
    {
        $found = [];
        foreach (['columns', 'keys', 'comments'] as $sheet) {
            $file = \dirname((string) (new \ReflectionClass($this))->getFileName())."/sheets/$sheet.sql";
            if (is_file($file)) {
                $found[$sheet] = (string) file_get_contents($file);
            }
        }

        return $found;
    }

    /** Whose structure those queries give, for people. */
    public function sheetsOf(): string
    {
        return $this->label();
    }

    /** The port that its servers usually listen on; 0 where it has none. */
    final public function port(): int
    {
        return max([0, ...array_values($this->schemes())]);
    }

    final public function isServer(): bool
    {
        return $this->port() > 0;
    }

    final public function typeOf(Column $column): Type
    {
        if (null !== $column->seen) {
            return MemberTypes::of($column->type);
        }
        $written = $column->base ?? $column->type;

        return $this->types[$written] ??= $this->type($written);
    }

    final public function typeInWords(Column $column): string
    {
        if (null !== $column->seen) {
            return MemberTypes::inWords($column->type, $column->seen);
        }

        return $this->inWords($this->typeOf($column));
    }

    /** Why users of the engine would call a type of theirs unusual, as a sentence's end; '' for what is usual. */
    public function unusual(Type $type): string
    {
        return '';
    }

    public function quoted(string $name): string
    {
        return Quotes::around($name);
    }

    /**
     * A text as it stands in SQL that is sent to a source or handed out: the one place where this is written for an engine. Whatever the
     * text holds and however the session is set, nothing of it is read as SQL.
     */
    public function literal(string $text): string
    {
        return Quotes::around($text, "'");
    }

    public function placed(Place $place): string
    {
        return ('' === $place->schema ? '' : $this->quoted($place->schema).'.').$this->quoted($place->name);
    }

    /** @param string $database the one database to read; empty for all that the account may read */
    public function reader(Rows $rows, string $database): ?Reader
    {
        return null;
    }

    /** The table to whose rows values of a type lead by the type itself; '' where a type says nothing of that. */
    public function refersTo(Type $type): string
    {
        return '';
    }

    /** How questions to its data are written; null for what is no database. */
    public function asking(): ?AskSql
    {
        return null;
    }

    public function profiling(): ?ProfileSql
    {
        return null;
    }

    /** How scripts of it are read; null where there are none. */
    public function grammar(): ?Grammar
    {
        return null;
    }

    /** Whether scripts of structure are written for it. */
    public function writes(): bool
    {
        return true;
    }

    /** It is written for where nobody says for which; one is. */
    public function isUsual(): bool
    {
        return false;
    }

    /** How scripts that make structure are written. */
    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new ScriptSql($this, $options);
    }

    /** How scripts that change what is there are written. */
    public function altering(ScriptOptions $options = new ScriptOptions()): AlterSql
    {
        return new AlterSql($this, $this->writing($options));
    }

    /** General types in its words, and back. */
    public function types(): NativeTypes
    {
        return new NativeTypes($this);
    }

    /** How many bytes a name may have. */
    public function longestName(): int
    {
        return 128;
    }

    public function capabilities(): Capabilities
    {
        return new Capabilities(yes: 'true', no: 'false');
    }
}
