<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\ScriptStatement;

/** Structure scripts of SQLite: https://www.sqlite.org/lang_createtable.html */
final class SqliteScriptSql extends ScriptSql
{
    protected const PLAIN_NAME = '/^[A-Za-z_][A-Za-z0-9_]*$/';
    private const OWN = ['WITHOUT ROWID', 'STRICT'];

    public function missing(Table $table): array
    {
        return array_values(array_diff(parent::missing($table), self::OWN));
    }

    protected function anyOrder(): bool
    {
        return true;
    }

    /** The only schema is the file. */
    protected function schemas(\Fasti\Core\Catalog\Catalog $catalog): array
    {
        return [];
    }

    protected function after(Table $table): string
    {
        $own = array_intersect($table->traits, self::OWN);

        return [] === $own ? '' : ' '.implode(', ', $own);
    }

    protected function defaulted(string $default): string
    {
        $plain = "/^(?:x?'(?:[^']|'')*'|\"(?:[^\"]|\"\")*\"|[-+]?[\\d.]+(?:e[-+]?\\d+)?|[a-z_]\\w*|\\(.*\\))$/is";

        return 1 === preg_match($plain, $default) ? $default : "($default)";
    }

    protected function computed(Column $column): string
    {
        return parent::computed($column).(true === $column->generated?->stored ? ' STORED' : ' VIRTUAL');
    }

    protected function numbered(Column $column): string
    {
        return null === $column->default ? '' : 'DEFAULT '.$this->defaulted($column->default);
    }

    protected function keyedInline(Table $table): bool
    {
        if (null === $table->primaryKey || null !== $table->primaryKey->name || 1 !== \count($table->primaryKey->columns)) {
            return false;
        }

        return true === $table->column($table->primaryKey->columns[0])?->autoNumbered;
    }

    protected function checkedInline(CheckConstraint $check, Table $table): bool
    {
        return null !== $check->column;
    }

    protected function isImplied(Index $index, Table $table): bool
    {
        return str_starts_with($index->name, 'sqlite_autoindex_') || parent::isImplied($index, $table);
    }

    protected function part(IndexPart $part, Table $table): string
    {
        return parent::part(new IndexPart($part->column, null, $part->descending), $table);
    }

    public function view(Table $view): array
    {
        $named = [] === $view->columns ? '' : ' ('.$this->names(array_map(static fn (Column $column): string => $column->name, $view->columns)).')';

        return [new ScriptStatement('view', 'CREATE VIEW '.$this->placed($view->place()).$named." AS\n".$view->definition, $view->place())];
    }

    public function trigger(Table $table, Trigger $trigger): string
    {
        return '' !== $trigger->statement ? $trigger->statement
            : \sprintf(
                "CREATE TRIGGER %s %s %s ON %s\n%s",
                $this->name($trigger->name),
                $trigger->timing,
                $trigger->event,
                $this->placed($table->place()),
                $trigger->body,
            );
    }
}
