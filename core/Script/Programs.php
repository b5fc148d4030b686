<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Tokens;

/** Reads triggers and routines. */
final readonly class Programs
{
    private const MODES = ['IN', 'OUT', 'INOUT', 'VARIADIC'];

    public function __construct(private Grammar $dialect, private Schemas $made, private Definitions $definitions)
    {
    }

    /** @param list<string> $before */
    public function trigger(Tokens $t, array $before): Outcome
    {
        $unless = $t->take('IF', 'NOT', 'EXISTS');
        [$of, $name] = $t->qualified();
        $timing = match (true) {
            $t->take('INSTEAD', 'OF') => 'INSTEAD OF',
            default => $t->any('BEFORE', 'AFTER') ?: 'BEFORE',
        };
        if (!\in_array($t->peek(), ['INSERT', 'UPDATE', 'DELETE', 'TRUNCATE', 'ON'], true) && $t->take('FOR')) {
            $timing = 'AFTER';
        }
        $events = [];
        if ('ON' === $t->peek() && !$this->dialect->structure->triggersCall && $this->dialect->structure->looseOptions) {
            // The event stands behind the table: ON t AFTER INSERT AS …
            $t->skip();
            $table = $this->made->next($t);
            $timing = match (true) {
                $t->take('INSTEAD', 'OF') => 'INSTEAD OF',
                default => 'FOR' === $t->any('FOR', 'AFTER', 'BEFORE') ? 'AFTER' : strtoupper($t->written(-1)),
            };
            do {
                $events[] = $t->any('INSERT', 'UPDATE', 'DELETE') ?: throw $t->fault('An event was expected');
            } while ($t->take(',') || $t->take('OR'));
        } else {
            do {
                $events[] = $t->any('INSERT', 'UPDATE', 'DELETE', 'TRUNCATE') ?: throw $t->fault('An event was expected');
                while (!$t->over() && 'ON' !== $t->peek() && 'OR' !== $t->peek()) {
                    $t->skip();
                }
            } while ($t->take('OR'));
            $t->expect('ON');
            $table = $this->made->next($t);
        }
        $from = $t->at;
        $body = $this->body($t);
        if ('' === $body) {
            throw $t->fault('What the trigger does was expected');
        }
        $temporary = [] !== array_intersect(['TEMP', 'TEMPORARY'], $before) || 'temp' === strtolower((string) $of);
        $there = array_filter($table->triggers, static fn (Trigger $trigger): bool => $trigger->name === $name);
        if ($temporary || ([] !== $there && $unless)) {
            return Outcome::Understood;
        }
        if ([] !== $there && !\in_array('REPLACE', $before, true)) {
            $t->at = $from;
            throw $t->fault(\sprintf('There is a trigger “%s” already', $name));
        }
        foreach ($this->made->all() as $other) {
            // Where names of triggers are those of the schema, one that is replaced may be of another table.
            if ($other === $table || (!$this->dialect->structure->triggersCall && $other->schema === $table->schema)) {
                $other->triggers = array_values(array_filter($other->triggers, static fn (Trigger $trigger): bool => $trigger->name !== $name));
            }
        }
        // In the order of the server's own list.
        $ordered = array_values(array_intersect(['INSERT', 'DELETE', 'UPDATE', 'TRUNCATE'], $events));
        $whole = $this->dialect->structure->triggersCall || $this->dialect->catalog->rowids ? trim($t->text) : '';
        $table->triggers[] = new Trigger($name, $timing, implode(' OR ', $ordered), $body, $whole);

        return Outcome::Understood;
    }

    private function body(Tokens $t): string
    {
        if (!$this->dialect->structure->triggersCall) {
            $t->take('FOR', 'EACH', 'ROW');
            if ('' !== $t->any('FOLLOWS', 'PRECEDES')) {
                $t->name();
            }

            return $t->rest();
        }
        while (!$t->over() && 'EXECUTE' !== $t->peek()) {
            if ('(' === $t->peek()) {
                $t->parenthesis();
            } else {
                $t->skip();
            }
        }
        $t->expect('EXECUTE');
        $t->any('FUNCTION', 'PROCEDURE') ?: throw $t->fault('“FUNCTION” was expected');
        [$schema, $name] = $t->qualified();
        $schema ??= $this->schemaOf($name);
        $t->expect('(');
        $arguments = [];
        while (!$t->over() && ')' !== $t->peek()) {
            $text = $t->text();
            if (null === $text) {
                $text = $t->written();
                $t->skip();
            }
            $arguments[] = Quotes::around($text, "'");
            $t->take(',');
        }
        $t->expect(')');
        $place = ('pg_catalog' === $schema ? '' : $this->dialect->quotedName($schema).'.').$this->dialect->quotedName($name);

        return "EXECUTE FUNCTION $place(".implode(', ', $arguments).')';
    }

    private function schemaOf(string $name): string
    {
        foreach ($this->made->path as $schema) {
            foreach ($this->made->routines as $routine) {
                if ($routine->schema === $schema && $routine->name === $name) {
                    return $schema;
                }
            }
        }

        return $this->made->schema;
    }

    /** @param list<string> $before */
    public function routine(Tokens $t, array $before, string $kind): Outcome
    {
        $unless = $t->take('IF', 'NOT', 'EXISTS');
        [$schema, $name] = $this->made->place($t);
        $from = $t->at;
        $routine = new RoutineBuilder($schema, $name, match (true) {
            'PROCEDURE' === $kind => 'procedure',
            'AGGREGATE' === $kind => 'aggregate',
            default => 'function',
        });
        if ($t->take('RETURNS', 'STRING') || $t->take('RETURNS', 'INTEGER') || $t->take('RETURNS', 'REAL') || $t->take('RETURNS', 'DECIMAL')) {
            // A function that a library brings along.
            return Outcome::OfNoMatter;
        }
        if ('(' === $t->peek()) {
            $routine->parameters = $this->parameters($t);
        } elseif (!$this->dialect->structure->looseOptions) {
            throw $t->fault('The list of parameters was expected');
        }
        if ('AGGREGATE' === $kind) {
            $this->aggregate($t, $routine);
        } else {
            $this->clauses($t, $routine);
        }
        $routine->statement = trim($t->text);
        $there = $this->found($schema, $name, $routine->signature());
        if (null !== $there) {
            if ($unless) {
                return Outcome::Understood;
            }
            if (!\in_array('REPLACE', $before, true) && !\in_array('ALTER', $before, true)) {
                $t->at = $from;
                throw $t->fault(\sprintf('There is a routine “%s” already', $name));
            }
            $routine->comment = '' === $routine->comment && !$this->dialect->structure->bareRoutines ? $there->comment : $routine->comment;
            $this->made->routines = array_map(static fn (RoutineBuilder $each): RoutineBuilder => $each === $there ? $routine : $each, $this->made->routines);

            return Outcome::Understood;
        }
        $this->made->routines[] = $routine;

        return Outcome::Understood;
    }

    /** @param list<string>|null $signature null for any */
    public function found(?string $schema, string $name, ?array $signature): ?RoutineBuilder
    {
        foreach (null === $schema ? $this->made->path : [$schema] as $of) {
            foreach ($this->made->routines as $routine) {
                $same = $this->dialect->queries->anyCase ? 0 === strcasecmp($routine->name, $name) : $routine->name === $name;
                if ($same
                    && $routine->schema === $of
                    && (null === $signature || !$this->dialect->structure->triggersCall || $routine->signature() === $signature)) {
                    return $routine;
                }
            }
        }

        return null;
    }

    /** @return list<array{mode: string, name: string, type: string, default: ?string}> */
    public function parameters(Tokens $t): array
    {
        $t->expect('(');
        $found = [];
        while (!$t->over() && ')' !== $t->peek()) {
            if ($t->take('*') || $t->take('ORDER', 'BY')) {
                continue;
            }
            $mode = $t->any(...self::MODES);
            if ('IN' === $mode && $t->take('OUT')) {
                $mode = 'INOUT';
            }
            $name = '';
            if (\in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true) && !$this->isType($t) || str_starts_with($t->written(), '@')) {
                $name = str_starts_with($t->written(), '@') ? $t->written() : '';
                if ('' === $name) {
                    $name = $t->name();
                } else {
                    $t->skip();
                }
                $mode = $t->any(...self::MODES) ?: $mode;
            }
            $column = new ColumnBuilder($name);
            $setOf = $t->take('SETOF') ? 'SETOF ' : '';
            $this->definitions->types->typed($t, $column);
            if ($t->take('CHARACTER', 'SET') || $t->take('CHARSET')) {
                $column->type .= ' charset '.strtolower($t->name());
            }
            if ($t->take('COLLATE')) {
                $t->name();
            }
            if ($t->take('%')) {
                $t->skip();
            }
            $default = null;
            if ($t->take('DEFAULT') || $t->take('=') || $t->take(':=')) {
                $from = $t->at;
                while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
                    if ('(' === $t->peek()) {
                        $t->parenthesis();
                    } else {
                        $t->skip();
                    }
                }
                $default = $t->from($from);
            }
            $found[] = ['mode' => $mode, 'name' => $name, 'type' => $setOf.$this->typeOf($column), 'default' => $default];
            if (!$t->take(',') && ')' !== $t->peek()) {
                if ($this->dialect->structure->looseOptions) {
                    $t->skip();
                    continue;
                }
                if (!$t->take('ORDER', 'BY')) {
                    throw $t->fault('A comma or a closing parenthesis was expected');
                }
            }
        }
        $t->expect(')');

        return $found;
    }

    /** Whether what comes next is a type of several words rather than a name and a type. */
    private function isType(Tokens $t): bool
    {
        return match ($t->peek()) {
            'DOUBLE' => 'PRECISION' === $t->peek(1),
            'CHARACTER', 'CHAR', 'BIT' => 'VARYING' === $t->peek(1) || 'LARGE' === $t->peek(1),
            'TIMESTAMP', 'TIME' => 'WITH' === $t->peek(1) || 'WITHOUT' === $t->peek(1),
            'NATIONAL' => true,
            'SETOF' => true,
            default => \in_array($t->peek(1), ['DEFAULT', 'ARRAY', 'UNSIGNED', 'CHARSET', 'ORDER', 'COLLATE'], true),
        };
    }

    private function typeOf(ColumnBuilder $column): string
    {
        $type = null === $column->ownType ? $column->type : $this->made->typeText($column->ownType);

        return $this->dialect->structure->triggersCall ? (string) preg_replace('/\([^)]*\)/', '', $type) : $type;
    }

    private function returned(Tokens $t): string
    {
        $setOf = $t->take('SETOF') ? 'SETOF ' : '';
        $column = new ColumnBuilder('');
        $from = $t->at;
        $this->definitions->types->typed($t, $column);
        if ($t->take('%')) {
            $t->skip();

            return $setOf.$t->from($from);
        }
        if ($t->take('CHARACTER', 'SET') || $t->take('CHARSET')) {
            $t->take('=');
            $column->charset = strtolower($t->text() ?? $t->name());
        }
        if ($t->take('COLLATE')) {
            $t->name();
        }

        return $setOf.$this->typeOf($column);
    }

    private function clauses(Tokens $t, RoutineBuilder $routine): void
    {
        $outs = array_values(array_filter($routine->parameters, static fn (array $p): bool => 'OUT' === $p['mode'] || 'INOUT' === $p['mode']));
        if ([] !== $outs && $this->dialect->structure->triggersCall && 'function' === $routine->kind) {
            $routine->returns = 1 === \count($outs) ? $outs[0]['type'] : 'record';
        }
        while (!$t->over()) {
            if ($t->take('RETURNS', 'NULL', 'ON', 'NULL', 'INPUT') || $t->take('CALLED', 'ON', 'NULL', 'INPUT')) {
                continue;
            }
            if ($t->take('RETURNS')) {
                if ($t->take('TABLE')) {
                    $columns = '(' === $t->peek() ? $this->parameters($t) : [];
                    $list = array_map(fn (array $p): string => $this->dialect->quotedName($p['name']).' '.$p['type'], $columns);
                    $routine->returns = 'TABLE'.([] === $columns ? '' : '('.implode(', ', $list).')');
                } else {
                    $routine->returns = $this->returned($t);
                }
            } elseif ($t->take('COMMENT')) {
                $routine->comment = $t->text() ?? '';
            } elseif (!$this->dialect->structure->bareRoutines && ($t->take('AS') || $t->take('IS'))) {
                $routine->body = $t->text() ?? $t->rest();
                if ($t->take(',')) {
                    $routine->body = $t->text();
                }
            } elseif ($this->dialect->structure->triggersCall && ('RETURN' === $t->peek() || ('BEGIN' === $t->peek() && 'ATOMIC' === $t->peek(1)))) {
                $routine->body = $t->rest();
            } elseif ($this->dialect->structure->bareRoutines) {
                if (!$this->characteristic($t)) {
                    $routine->body = $t->rest();
                }
            } else {
                $this->skipOption($t);
            }
        }
    }

    /** What MySQL's family says of a routine before its body. */
    private function characteristic(Tokens $t): bool
    {
        if ($t->take('SQL', 'SECURITY')) {
            $t->skip();

            return true;
        }

        return $t->take('LANGUAGE', 'SQL') || $t->take('NOT', 'DETERMINISTIC') || $t->take('DETERMINISTIC') || $t->take('CONTAINS', 'SQL')
            || $t->take('NO', 'SQL') || $t->take('READS', 'SQL', 'DATA') || $t->take('MODIFIES', 'SQL', 'DATA');
    }

    private function skipOption(Tokens $t): void
    {
        if ($t->take('LANGUAGE') || $t->take('COST') || $t->take('ROWS') || $t->take('SUPPORT') || $t->take('PARALLEL')) {
            $t->skip();

            return;
        }
        if ($t->take('SET')) {
            $t->skip();
            while (!$t->over()
                && !\in_array(
                    $t->peek(),
                    ['AS', 'LANGUAGE', 'IMMUTABLE', 'STABLE', 'VOLATILE', 'STRICT', 'SECURITY', 'COST', 'ROWS', 'SET', 'PARALLEL', 'RETURN'],
                    true,
                )) {
                $t->skip();
            }

            return;
        }
        if ('(' === $t->peek()) {
            $t->parenthesis();
        } else {
            $t->skip();
        }
    }

    /** An aggregate: its value is that of its last function, or of its state. */
    private function aggregate(Tokens $t, RoutineBuilder $routine): void
    {
        $t->expect('(');
        $set = [];
        while (!$t->over() && ')' !== $t->peek()) {
            $word = $t->peek();
            $t->skip();
            if (!$t->take('=')) {
                $t->take(',');
                continue;
            }
            if ('STYPE' === $word) {
                $column = new ColumnBuilder('');
                $this->definitions->types->typed($t, $column);
                $set['STYPE'] = $this->typeOf($column);
            } else {
                $from = $t->at;
                while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
                    if ('(' === $t->peek()) {
                        $t->parenthesis();
                    } else {
                        $t->skip();
                    }
                }
                $set[$word] = $t->from($from);
            }
            $t->take(',');
        }
        $t->expect(')');
        $final = isset($set['FINALFUNC']) ? $this->found(null, $set['FINALFUNC'], null) : null;
        $routine->returns = $final->returns ?? $set['STYPE'] ?? null;
        $of = isset($set['SFUNC']) ? $this->found(null, $set['SFUNC'], null) : null;
        $routine->body = null === $of ? $set['SFUNC'] ?? null : $this->dialect->quotedName($of->schema).'.'.$this->dialect->quotedName($of->name);
        if (isset($set['BASETYPE']) && [] === $routine->parameters) {
            $routine->parameters = [['mode' => '', 'name' => '', 'type' => $this->dialect->type($set['BASETYPE'], '', ''), 'default' => null]];
        }
    }
}
