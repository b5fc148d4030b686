<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\ScriptStatement;

/** Structure scripts of MariaDB: https://mariadb.com/kb/en/create-table/ */
class MariaDbScriptSql extends ScriptSql
{
    protected const PLAIN_NAME = '/^[A-Za-z_][A-Za-z0-9_]*$/';

    protected function schema(string $name): string
    {
        return 'CREATE SCHEMA IF NOT EXISTS '.$this->name($name).' CHARACTER SET utf8mb4';
    }

    public function text(array $statements): string
    {
        $text = '';
        foreach ($statements as $statement) {
            $text .= $statement->program
                ? "DELIMITER $$\n".rtrim(rtrim($statement->sql), ';')."$$\nDELIMITER ;\n\n"
                : $this->ended($statement)."\n".(\in_array($statement->kind, ['table', 'view'], true) ? "\n" : '');
        }

        return rtrim($text)."\n";
    }

    public function column(Column $column, Table $table): string
    {
        $words = [$this->name($column->name), $this->type($column)];
        if (null !== $column->charset) {
            $words[] = 'CHARACTER SET '.$column->charset;
        }
        if (null !== $column->collation) {
            $words[] = 'COLLATE '.$column->collation;
        }
        if (null !== $column->generated) {
            $words[] = 'GENERATED ALWAYS AS ('.$column->generated->expression.') '.($column->generated->stored ? 'STORED' : 'VIRTUAL');
        } else {
            // A timestamp is required unless it says otherwise.
            $words[] = match (true) {
                !$column->nullable => 'NOT NULL',
                str_starts_with(strtolower($column->type), 'timestamp') => 'NULL',
                default => '',
            };
            if (null !== $column->default && !$column->autoNumbered) {
                $words[] = 'DEFAULT '.$this->defaulted($column->default);
            }
            if ($column->autoNumbered) {
                $words[] = 'AUTO_INCREMENT';
            }
            if (null !== $column->onUpdate) {
                $words[] = 'ON UPDATE '.$column->onUpdate;
            }
        }
        if ('' !== $column->comment && $this->options->comments) {
            $words[] = 'COMMENT '.$this->literal($column->comment);
        }
        foreach ($table->checks as $check) {
            if ($check->column === $column->name) {
                $words[] = 'CHECK ('.$check->expression.')';
            }
        }

        return implode(' ', array_filter($words, static fn (string $word): bool => '' !== $word));
    }

    protected function defaulted(string $default): string
    {
        $plain = '/^(?:[bx]?\'(?:[^\'\\\\]|\'\'|\\\\.)*\'|[-+]?[\d.]+(?:e[-+]?\d+)?|NULL|(?:current_timestamp|now)(?:\(\d*\))?)$/is';

        return 1 === preg_match($plain, $default) ? $default : "($default)";
    }

    protected function checkedInline(CheckConstraint $check, Table $table): bool
    {
        return null !== $check->column && null !== $table->column($check->column);
    }

    public function primary(Key $key, Table $table): string
    {
        foreach ($table->indexes as $index) {
            if ('PRIMARY' === strtoupper($index->name)) {
                return 'PRIMARY KEY ('.$this->parts($index, $table).')'.$this->said($index);
            }
        }

        return parent::primary($key, $table);
    }

    private function said(Index $index): string
    {
        return '' === $index->comment ? '' : ' COMMENT '.$this->literal($index->comment);
    }

    public function unique(Key $key, Table $table): string
    {
        foreach ($table->indexes as $index) {
            if ($index->name === $key->name) {
                return 'UNIQUE '.$this->keyed($index, $table);
            }
        }

        return 'UNIQUE KEY '.('' === (string) $key->name ? '' : $this->name((string) $key->name).' ').'('.$this->names($key->columns).')';
    }

    public function keysWithin(Table $table): array
    {
        $keys = [];
        $unique = array_map(static fn (Key $key): ?string => $key->name, $table->uniqueKeys);
        foreach ($table->indexes as $index) {
            if ('PRIMARY' !== strtoupper($index->name) && !\in_array($index->name, $unique, true)) {
                $keys[] = match (strtolower($index->method)) {
                    'fulltext' => 'FULLTEXT ',
                    'spatial', 'rtree' => 'SPATIAL ',
                    default => $index->unique ? 'UNIQUE ' : '',
                }.$this->keyed($index, $table);
            }
        }

        return $keys;
    }

    private function keyed(Index $index, Table $table): string
    {
        $spatial = \in_array(strtolower($index->method), ['spatial', 'rtree'], true);
        $parts = $spatial ? $this->names(array_map(static fn ($part): string => $part->column, $index->parts)) : $this->parts($index, $table);

        return 'KEY '.$this->name($index->name).' ('.$parts.')'.('hash' === strtolower($index->method) ? ' USING HASH' : '').$this->said($index);
    }

    protected function constraint(?string $name): string
    {
        return 'PRIMARY' === strtoupper((string) $name) ? '' : parent::constraint($name);
    }

    /** Indexes stand within their table. */
    protected function isImplied(Index $index, Table $table): bool
    {
        return true;
    }

    protected function action(string $on, string $action): string
    {
        return " ON $on $action";
    }

    protected function after(Table $table): string
    {
        return (null === $table->storage ? '' : ' ENGINE='.$table->storage)
            .(null === $table->collation ? '' : ' COLLATE='.$table->collation)
            .('' === $table->comment || !$this->options->comments ? '' : ' COMMENT='.$this->literal($table->comment));
    }

    public function view(Table $view): array
    {
        // The catalog says the query in full, without the names that the view gave to its columns.
        return [new ScriptStatement('view', 'CREATE VIEW '.$this->placed($view->place()).$this->given($view)." AS\n".$view->definition, $view->place())];
    }

    private function given(Table $view): string
    {
        return [] === $view->columns ? '' : ' ('.$this->names(array_map(static fn (Column $column): string => $column->name, $view->columns)).')';
    }

    public function trigger(Table $table, \Fasti\Core\Catalog\Trigger $trigger): string
    {
        $schema = $this->options->schema ?? ($this->options->places ? $table->schema : '');

        return \sprintf(
            "CREATE TRIGGER %s %s %s ON %s FOR EACH ROW\n%s",
            $this->placed(new Place($schema, $trigger->name)),
            $trigger->timing,
            $trigger->event,
            $this->placed($table->place()),
            $trigger->body,
        );
    }
}
