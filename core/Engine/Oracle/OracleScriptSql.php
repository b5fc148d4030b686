<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Oracle;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\ScriptStatement;

/** Structure scripts of Oracle Database 19c, SQL Language Reference, CREATE TABLE. */
final class OracleScriptSql extends ScriptSql
{
    /** Names in small letters and names in capitals are the same there, as long as they are not mixed. */
    protected const PLAIN_NAME = '/^(?:[a-z][a-z0-9_]*|[A-Z][A-Z0-9_]*)$/';

    /** A schema is an account, which somebody else opens. */
    protected function schemas(Catalog $catalog): array
    {
        return [];
    }

    /** There is no ON UPDATE, and RESTRICT is what happens anyway. */
    protected function action(string $on, string $action): string
    {
        return 'DELETE' === $on && \in_array($action, ['CASCADE', 'SET NULL'], true) ? " ON DELETE $action" : '';
    }

    public function dropTable(Table $table): string
    {
        return $this->unlessGone('DROP TABLE '.$this->placed($table->place()).' CASCADE CONSTRAINTS');
    }

    public function dropView(Table $view): string
    {
        return $this->unlessGone('DROP '.strtoupper($view->kind->value).' '.$this->placed($view->place()));
    }

    /** Error 942 is that of what does not exist; a materialized view has an error of its own. */
    private function unlessGone(string $sql): string
    {
        return "BEGIN\n  EXECUTE IMMEDIATE ".$this->literal($sql)
            .";\nEXCEPTION\n  WHEN OTHERS THEN\n    IF SQLCODE NOT IN (-942, -12003) THEN\n      RAISE;\n    END IF;\nEND;";
    }

    protected function ended(ScriptStatement $statement): string
    {
        return $statement->program || str_starts_with($statement->sql, 'BEGIN') ? rtrim($statement->sql)."\n/" : parent::ended($statement);
    }

    protected function comments(Table $table): array
    {
        $all = '' === $table->comment ? [] : ['COMMENT ON TABLE '.$this->placed($table->place()).' IS '.$this->literal($table->comment)];
        foreach ($table->columns as $column) {
            if ('' !== $column->comment) {
                $all[] = 'COMMENT ON COLUMN '.$this->placed($table->place()).'.'.$this->name($column->name).' IS '.$this->literal($column->comment);
            }
        }

        return $all;
    }

    protected function computed(Column $column): string
    {
        return parent::computed($column).' VIRTUAL';
    }
}
