<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\SqlServer;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\ScriptStatement;

/** Structure scripts of SQL Server, Transact-SQL reference, CREATE TABLE. */
final class SqlServerScriptSql extends ScriptSql
{
    protected const PLAIN_NAME = '/^[A-Za-z_][A-Za-z0-9_]*$/';

    /** A batch of its own makes a schema, a view or a program. */
    protected function ended(ScriptStatement $statement): string
    {
        return parent::ended($statement).($statement->program || \in_array($statement->kind, ['schema', 'view'], true) ? "\nGO" : '');
    }

    protected function numbered(Column $column): string
    {
        return 'IDENTITY(1,1)';
    }

    public function column(Column $column, Table $table): string
    {
        return null === $column->generated ? parent::column($column, $table)
            : $this->name($column->name).' AS ('.$column->generated->expression.')'.($column->generated->stored ? ' PERSISTED' : '');
    }

    /** RESTRICT is what happens anyway, and is not said. */
    protected function action(string $on, string $action): string
    {
        return parent::action($on, 'RESTRICT' === $action ? 'NO ACTION' : $action);
    }

    protected function comments(Table $table): array
    {
        $all = '' === $table->comment ? [] : [$this->said($table, $table->comment, null)];
        foreach ($table->columns as $column) {
            if ('' !== $column->comment) {
                $all[] = $this->said($table, $column->comment, $column);
            }
        }

        return $all;
    }

    private function said(Table $table, string $text, ?Column $column): string
    {
        $schema = $this->options->schema ?? ('' === $table->schema || !$this->options->places ? 'dbo' : $table->schema);

        return "EXEC sys.sp_addextendedproperty @name = N'MS_Description', @value = ".$this->literal($text)
            .", @level0type = N'SCHEMA', @level0name = ".$this->literal($schema).", @level1type = N'TABLE', @level1name = ".$this->literal($table->name)
            .(null === $column ? '' : ", @level2type = N'COLUMN', @level2name = ".$this->literal($column->name));
    }
}
