<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Index;
use Fasti\Core\Sql\Tokens;

/** Carries out what later statements say about tables that are there: ALTER, COMMENT ON and DROP. */
final readonly class Altering
{
    public function __construct(private Schemas $made, private Definitions $definitions)
    {
    }

    public function alter(Tokens $t): bool
    {
        $t->take('FOREIGN');
        if (!$t->take('TABLE')) {
            return false;
        }
        $t->take('IF', 'EXISTS');
        $t->take('ONLY');
        [$schema, $name] = $this->made->place($t);
        if (!isset($this->made->tables[$schema][$name]) && 'OWNER' === $t->peek()) {
            return true;
        }
        $table = $this->made->known($t, $schema, $name);
        do {
            $from = $t->at;
            $this->alteration($t, $table);
            if ($from === $t->at) {
                $t->skipElement();
            }
        } while ($t->take(','));

        return true;
    }

    private function alteration(Tokens $t, TableBuilder $table): void
    {
        if ($t->take('ADD')) {
            if ('' !== $t->any('COLUMN')) {
                $t->take('IF', 'NOT', 'EXISTS');
                $this->definitions->column($t, $table);
            } elseif ('(' === $t->peek()) {
                $this->definitions->elements($t, $table);
            } else {
                $this->definitions->element($t, $table);
            }
        } elseif ($t->take('ALTER')) {
            $t->take('COLUMN');
            $name = $t->name();
            if (!isset($table->columns[$name])) {
                throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $name));
            }
            if ($t->take('SET', 'DEFAULT')) {
                $table->columns[$name]['default'] = $default = $t->expression();
                $table->columns[$name]['auto'] = str_starts_with($default, 'nextval(');
            } elseif ($t->take('SET', 'NOT', 'NULL')) {
                $table->columns[$name]['nullable'] = false;
            } elseif ($t->take('DROP', 'NOT', 'NULL')) {
                $table->columns[$name]['nullable'] = true;
            } elseif ($t->take('DROP', 'DEFAULT')) {
                $table->columns[$name]['default'] = null;
            } elseif ($t->take('ADD', 'GENERATED')) {
                [$table->columns[$name]['auto'], $table->columns[$name]['nullable']] = [true, false];
                $t->skipElement();
            } elseif ($t->take('TYPE') || $t->take('SET', 'DATA', 'TYPE')) {
                [$table->columns[$name]['type']] = $this->definitions->type($t);
                $t->skipElement();
            } else {
                $t->skipElement();
            }
        } elseif ($t->take('ENABLE', 'ROW', 'LEVEL', 'SECURITY')) {
            $table->secured = true;
        } elseif ($t->take('ATTACH', 'PARTITION')) {
            [$schema, $name] = $this->made->place($t);
            $this->made->attach($table->schema, $table->name, $schema, $name);
            $t->rest();
        } elseif ($t->take('INHERIT')) {
            $this->made->inherit($table, ...$this->made->place($t));
        } elseif ($t->take('MODIFY') || $t->take('CHANGE')) {
            $t->take('COLUMN');
            $kept = $table->columns;
            $this->definitions->column($t, $table);
            $table->columns = array_replace($kept, $table->columns);
        } elseif ($t->take('DROP', 'COLUMN')) {
            $t->take('IF', 'EXISTS');
            unset($table->columns[$t->name()]);
            $t->skipElement();
        } elseif ($t->take('RENAME', 'TO')) {
            unset($this->made->tables[$table->schema][$table->name]);
            $table->name = $t->name();
            $this->made->tables[$table->schema][$table->name] = $table;
        } elseif ($t->take('COMMENT')) {
            $t->take('=');
            $table->comment = $t->text() ?? '';
        } else {
            $t->skipElement();
        }
    }

    public function comment(Tokens $t): bool
    {
        $kind = $t->any('TABLE', 'COLUMN', 'VIEW', 'INDEX', 'MATERIALIZED', 'FOREIGN');
        if ('MATERIALIZED' === $kind || 'FOREIGN' === $kind) {
            $t->skip();
        }
        if ('' === $kind) {
            return false;
        }
        $parts = [$t->name()];
        while ($t->take('.')) {
            $parts[] = $t->name();
        }
        $t->expect('IS');
        $text = $t->text() ?? '';
        if ('COLUMN' === $kind) {
            $column = array_pop($parts);
            $table = $this->made->known($t, $parts[\count($parts) - 2] ?? $this->made->schema, (string) end($parts));
            if (!isset($table->columns[$column])) {
                if ($table->kind->isView()) {
                    $table->columns[$column] = ['comment' => $text] + Script::unknownColumn($column);

                    return true;
                }
                throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $column));
            }
            $table->columns[$column]['comment'] = $text;
        } elseif ('INDEX' === $kind) {
            $name = (string) end($parts);
            foreach ($this->made->tables as $tables) {
                foreach ($tables as $table) {
                    foreach ($table->indexes as $i => $index) {
                        if ($index->name === $name) {
                            $table->indexes[$i] = new Index($name, $index->parts, $index->unique, $index->method, $text, $index->where);
                        }
                    }
                }
            }
        } else {
            $this->made->known($t, $parts[\count($parts) - 2] ?? $this->made->schema, (string) end($parts))->comment = $text;
        }

        return true;
    }

    public function drop(Tokens $t): bool
    {
        $t->take('MATERIALIZED');
        if ('' === $t->any('TABLE', 'VIEW')) {
            return false;
        }
        $t->take('IF', 'EXISTS');
        do {
            [$schema, $name] = $this->made->place($t);
            unset($this->made->tables[$schema][$name]);
        } while ($t->take(','));

        return true;
    }
}
