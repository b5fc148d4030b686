<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Dialect\Surroundings;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Element;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Parameter;
use Fasti\Core\Sql\Tree\Ref;

/**
 * Writes expressions as PostgreSQL's `pg_get_expr` does with an empty search path: each operation in parentheses, every
 * constant with its type, the casts that the server adds shown, and IN, BETWEEN and LIKE as the operators that they are.
 * What it does not know how to write stands as it was.
 */
final class PostgreSqlWriting
{
    public const UNKNOWN = 'unknown';

    public readonly PostgreSqlTyping $typing;
    public readonly Constants $constants;
    public string $sql = '';
    public int $indent = 0;

    public readonly PostgreSqlOperations $operations;
    public readonly PostgreSqlCalls $calls;

    public function __construct(public readonly PostgreSqlGrammar $dialect, public readonly Surroundings $around)
    {
        $this->operations = new PostgreSqlOperations($this);
        $this->calls = new PostgreSqlCalls($this);
        $this->typing = $dialect->typing();
        $this->typing->bases = $around->bases;
        $this->constants = new Constants($this->typing);
    }

    public function expression(string $sql): string
    {
        return $this->tried($sql, fn (Expression $tree): string => $this->boolean($this->write($tree))->plain());
    }

    public function indexed(string $sql): string
    {
        // What is no function stands in parentheses of its own there.
        return $this->tried($sql, fn (Expression $tree): string => $tree instanceof Call ? $this->write($tree)->plain() : '('.$this->write($tree)->plain().')');
    }

    /** @param string $type of the column, as the catalog writes it */
    public function default(string $sql, string $type): ?string
    {
        $tree = $this->read($sql);
        if (null === $tree) {
            return $this->blanks($sql);
        }
        try {
            $written = $this->write($tree);
            $internal = $this->typing->based($this->typing->internal($type));
            if (self::UNKNOWN === $written->type && $written->isConstant()) {
                if ($written->null) {
                    return null;
                }

                return $this->constants->of($internal, (string) $written->value)->sql;
            }
            if ($written->null && !str_contains($type, '(')) {
                return null;
            }

            return $written->plain();
        } catch (\UnexpectedValueException) {
            return $this->blanks($sql);
        }
    }

    /** @param callable(Expression): string $write */
    private function tried(string $sql, callable $write): string
    {
        $tree = $this->read($sql);
        if (null === $tree) {
            return $this->blanks($sql);
        }
        try {
            return $write($tree);
        } catch (\UnexpectedValueException) {
            return $this->blanks($sql);
        }
    }

    private function read(string $sql): ?Expression
    {
        $this->sql = $sql;

        return Parser::expression($sql, $this->dialect);
    }

    private function blanks(string $sql): string
    {
        return trim(
            (string) preg_replace_callback('/\'(?:[^\']|\'\')*\'|"[^"]*"|\s+/s', static fn (array $m): string => '' === trim($m[0]) ? ' ' : $m[0], $sql),
        );
    }

    public function raw(Expression $node): string
    {
        return substr($this->sql, $node->at, $node->end - $node->at);
    }

    public function write(Expression $node): Written
    {
        return match (true) {
            $node instanceof Literal => $this->literal($node),
            $node instanceof Ref => $this->ref($node),
            $node instanceof Operation => $this->operations->operation($node),
            $node instanceof Call => $this->calls->call($node),
            $node instanceof Cast => $this->calls->cast($node),
            $node instanceof CaseOf => $this->calls->case($node),
            $node instanceof ArrayOf => $this->calls->list($node, null),
            $node instanceof Element => $this->calls->element($node),
            $node instanceof Parameter
                && isset($this->around->columns[$node->text]) => new Written($node->text, $this->typing->internal($this->around->columns[$node->text])),
            default => throw new \UnexpectedValueException(),
        };
    }

    private function ref(Ref $ref): Written
    {
        $name = $ref->names[\count($ref->names) - 1];
        $type = $this->around->columns[$name] ?? null;
        if (null === $type || '' === $type) {
            throw new \UnexpectedValueException();
        }
        if ('value' === $name && isset($this->around->columns['VALUE'])) {
            return new Written('VALUE', $this->typing->internal($type));
        }

        return new Written($this->dialect->quotedName($name), $this->typing->internal($type));
    }

    private function literal(Literal $literal): Written
    {
        return match ($literal->kind) {
            'text' => new Written('', self::UNKNOWN, $literal->text),
            'null' => new Written('NULL', self::UNKNOWN, null, true),
            'bool' => $this->constants->of('bool', strtolower($literal->text)),
            'number' => $this->constants->of($this->typing->internal((string) $this->typing->literal('number', $literal->text)), $literal->text),
            'bits' => $this->constants->of('bit', $literal->text),
            'typed' => $this->typed((string) $literal->type, $literal->text),
            default => throw new \UnexpectedValueException(),
        };
    }

    /** A text with a type of its own, which may say a length. */
    private function typed(string $type, string $text): Written
    {
        $full = $this->fullType($type);

        return $this->calls->lengthened($this->constants->of($this->typing->internal($full), $text), $full, true);
    }

    public function fullType(string $type): string
    {
        $array = str_ends_with($type, '[]') ? '[]' : '';
        $bare = '' === $array ? $type : substr($type, 0, -2);

        return ($this->around->types[str_replace('"', '', $bare)] ?? $bare).$array;
    }

    /** Of a boolean condition that is a bare text. */
    public function boolean(Written $written): Written
    {
        return self::UNKNOWN === $written->type ? $this->coerced($written, 'bool') : $written;
    }

    /** A value as the server casts it by itself. */
    public function coerced(Written $written, string $to): Written
    {
        if ($written->type === $to || str_starts_with($to, 'any') || '' === $to) {
            return self::UNKNOWN === $written->type ? $this->coerced($written, 'text') : $written;
        }
        if (self::UNKNOWN === $written->type && $written->isConstant()) {
            if ('regclass' === $to && null !== $written->value) {
                $written = new Written('', self::UNKNOWN, $this->relation($written->value));
            }

            return $written->null ? new Written('NULL::'.$this->shown($to), $to, null, true) : $this->constants->of($to, (string) $written->value);
        }
        if ($this->typing->based($written->type) === $to && $this->typing->isEnum($to)) {
            return $written;
        }
        $inner = $written->plain();

        return new Written("($inner)::".$this->shown($to), $to, null, false, $inner);
    }

    /** A table or sequence by its name, with its schema. */
    private function relation(string $name): string
    {
        $plain = str_starts_with($name, '"') ? str_replace('""', '"', substr($name, 1, -1)) : strtolower($name);
        $schema = 1 === preg_match('/^(?:"[^"]*"|\w+)$/', $name) ? $this->around->relations[$plain] ?? null : null;

        return null === $schema ? $name : $this->dialect->quotedName($schema).'.'.$this->dialect->quotedName($plain);
    }

    public function shown(string $internal): string
    {
        return $this->typing->shownType($internal);
    }
}
