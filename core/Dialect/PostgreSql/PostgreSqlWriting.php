<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect\PostgreSql;

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
use Fasti\Core\Sql\Tree\RowOf;

/**
 * Writes expressions as PostgreSQL's `pg_get_expr` does with an empty search path: each operation in parentheses, every
 * constant with its type, the casts that the server adds shown, and IN, BETWEEN and LIKE as the operators that they are.
 * What it does not know how to write stands as it was.
 */
final class PostgreSqlWriting
{
    private const UNKNOWN = 'unknown';
    private const LIKE = ['LIKE' => '~~', 'NOT LIKE' => '!~~', 'ILIKE' => '~~*', 'NOT ILIKE' => '!~~*'];
    private const VALUES = [
        'current_date' => 'date', 'current_time' => 'timetz', 'current_timestamp' => 'timestamptz', 'localtime' => 'time', 'localtimestamp' => 'timestamp',
        'current_user' => 'name', 'current_role' => 'name', 'session_user' => 'name', 'user' => 'name', 'current_catalog' => 'name', 'current_schema' => 'name',
    ];

    private readonly PostgreSqlTyping $typing;
    private readonly Constants $constants;
    private string $sql = '';
    private int $indent = 0;

    public function __construct(private readonly PostgreSqlGrammar $dialect, private readonly Surroundings $around)
    {
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

    private function raw(Expression $node): string
    {
        return substr($this->sql, $node->at, $node->end - $node->at);
    }

    private function write(Expression $node): Written
    {
        return match (true) {
            $node instanceof Literal => $this->literal($node),
            $node instanceof Ref => $this->ref($node),
            $node instanceof Operation => $this->operation($node),
            $node instanceof Call => $this->call($node),
            $node instanceof Cast => $this->cast($node),
            $node instanceof CaseOf => $this->case($node),
            $node instanceof ArrayOf => $this->list($node, null),
            $node instanceof Element => $this->element($node),
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

        return $this->lengthened($this->constants->of($this->typing->internal($full), $text), $full, true);
    }

    private function fullType(string $type): string
    {
        $array = str_ends_with($type, '[]') ? '[]' : '';
        $bare = '' === $array ? $type : substr($type, 0, -2);

        return ($this->around->types[str_replace('"', '', $bare)] ?? $bare).$array;
    }

    /** Of a boolean condition that is a bare text. */
    private function boolean(Written $written): Written
    {
        return self::UNKNOWN === $written->type ? $this->coerced($written, 'bool') : $written;
    }

    /** A value as the server casts it by itself. */
    private function coerced(Written $written, string $to): Written
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

    private function shown(string $internal): string
    {
        return $this->typing->shownType($internal);
    }

    private function operation(Operation $node): Written
    {
        [$sign, $operands] = [$node->sign, $node->operands];
        $no = str_starts_with($sign, 'NOT ');

        return match (true) {
            'AND' === $sign, 'OR' === $sign => $this->conditions($sign, $operands),
            'NOT' === $sign => new Written('(NOT '.$this->boolean($this->write($operands[0]))->sql.')', 'bool'),
            1 === preg_match('/^IS (?:NOT )?NULL$/', $sign) => new Written('('.$this->known($operands[0])->sql.' '.$sign.')', 'bool'),
            1 === preg_match('/^IS (?:NOT )?(?:TRUE|FALSE|UNKNOWN)$/', $sign) => new Written(
                '('.$this->boolean($this->write($operands[0]))->sql.' '.$sign.')',
                'bool',
            ),
            'IS DISTINCT FROM' === $sign => $this->binary('=', $this->write($operands[0]), $this->write($operands[1]), 'IS DISTINCT FROM'),
            'IS NOT DISTINCT FROM' === $sign => new Written(
                '(NOT '.$this->binary('=', $this->write($operands[0]), $this->write($operands[1]), 'IS DISTINCT FROM')->sql.')',
                'bool',
            ),
            'BETWEEN' === $sign, 'NOT BETWEEN' === $sign => $this->between($no, $operands, $node),
            'IN' === $sign, 'NOT IN' === $sign => $this->among($no, $operands),
            isset(self::LIKE[$sign]) => $this->like(self::LIKE[$sign], $operands),
            'SIMILAR' === $sign, 'NOT SIMILAR' === $sign => $this->similar($no ? '!~' : '~', $operands),
            1 === preg_match('/^(.+) (ANY|ALL)$/', $sign, $m) => $this->quantified($m[1], $m[2], $operands),
            'COLLATE' === $sign => $this->collated($operands[0]),
            'AT TIME ZONE' === $sign => $this->atZone($operands),
            str_starts_with($sign, 'INTERVAL') => $this->interval($sign, $operands[0]),
            1 === \count($operands) => $this->unary($sign, $operands[0]),
            default => $this->chain('!=' === $sign ? '<>' : $sign, $operands),
        };
    }

    private function known(Expression $node): Written
    {
        $written = $this->write($node);

        return self::UNKNOWN === $written->type ? $this->coerced($written, 'text') : $written;
    }

    /** @param list<Expression> $operands */
    private function conditions(string $sign, array $operands): Written
    {
        // What stands in parentheses on the left is part of the same list.
        while ($operands[0] instanceof Operation && $operands[0]->sign === $sign) {
            $operands = [...$operands[0]->operands, ...\array_slice($operands, 1)];
        }
        $parts = array_map(fn (Expression $operand): string => $this->boolean($this->write($operand))->sql, $operands);

        return new Written('('.implode(" $sign ", $parts).')', 'bool');
    }

    /** @param list<Expression> $operands */
    private function chain(string $sign, array $operands): Written
    {
        if ($operands[0] instanceof RowOf || $operands[1] instanceof RowOf) {
            return $this->rows($sign, $operands);
        }
        $left = $this->write($operands[0]);
        foreach (\array_slice($operands, 1) as $operand) {
            $left = $this->binary($sign, $left, $this->write($operand));
        }

        return $left;
    }

    /**
     * Rows are compared value by value.
     *
     * @param list<Expression> $operands
     */
    private function rows(string $sign, array $operands): Written
    {
        if (!$operands[0] instanceof RowOf || !$operands[1] instanceof RowOf || !\in_array($sign, ['=', '<>'], true)) {
            throw new \UnexpectedValueException();
        }
        $parts = [];
        foreach ($operands[0]->items as $i => $item) {
            $parts[] = $this->binary($sign, $this->write($item), $this->write($operands[1]->items[$i] ?? throw new \UnexpectedValueException()))->sql;
        }

        return new Written('('.implode('=' === $sign ? ' AND ' : ' OR ', $parts).')', 'bool');
    }

    private function binary(string $sign, Written $left, Written $right, ?string $shown = null): Written
    {
        $chosen = $this->typing->overloads->chosenOperator($sign, [$left->type, $right->type]);
        if (null === $chosen && isset($this->around->operators[$sign])) {
            $own = 'OPERATOR('.$this->dialect->quotedName($this->around->operators[$sign]).'.'.$sign.')';

            return new Written('('.$this->coercedUnknown($left)->sql." $own ".$this->coercedUnknown($right)->sql.')', 'bool');
        }
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }
        $result = $this->typing->overloads->operator($sign, [$left->type, $right->type]) ?? $chosen[2];
        [$a, $b] = [$this->operand($left, $chosen[0], $right), $this->operand($right, $chosen[1], $left)];

        return new Written("($a->sql ".($shown ?? $sign)." $b->sql)", null === $shown ? $result : 'bool');
    }

    /** An operand of an operator that may take any type: an unknown text is of the other's. */
    private function operand(Written $written, string $wanted, Written $other): Written
    {
        if (str_starts_with($wanted, 'any') && self::UNKNOWN === $written->type) {
            $type = self::UNKNOWN === $other->type ? 'text' : $this->typing->based($other->type);

            return $this->coerced(
                $written,
                \in_array($wanted, ['anyelement', 'anycompatible', 'anynonarray'], true) && str_starts_with($type, '_') ? substr($type, 1) : $type,
            );
        }
        if (str_starts_with($wanted, 'any') && $this->typing->based($written->type) !== $written->type && !$this->typing->isEnum($written->type)) {
            return $this->coerced($written, $this->typing->based($written->type));
        }

        return $this->coerced($written, $wanted);
    }

    private function unary(string $sign, Expression $operand): Written
    {
        $value = $this->write($operand);
        // A number with its sign is one constant.
        if ('-' === $sign && $operand instanceof Literal && 'number' === $operand->kind) {
            return $this->constants->of($value->type, '-'.$operand->text);
        }
        $chosen = $this->typing->overloads->chosenOperator($sign, [$value->type]);
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }

        return new Written("($sign ".$this->coerced($value, $chosen[1])->sql.')', $chosen[2]);
    }

    /** @param list<Expression> $operands */
    private function between(bool $no, array $operands, Operation $node): Written
    {
        if (1 === preg_match('/\bSYMMETRIC\b/i', $this->raw($node))) {
            throw new \UnexpectedValueException();
        }
        $low = $this->binary($no ? '<' : '>=', $this->write($operands[0]), $this->write($operands[1]));
        $high = $this->binary($no ? '>' : '<=', $this->write($operands[0]), $this->write($operands[2]));

        return new Written("($low->sql ".($no ? 'OR' : 'AND')." $high->sql)", 'bool');
    }

    /** @param list<Expression> $operands */
    private function among(bool $no, array $operands): Written
    {
        $left = $this->write($operands[0]);
        $items = \array_slice($operands, 1);
        $constant = static fn (Written $item): bool => $item->isConstant();
        $written = array_map($this->write(...), $items);
        $sign = $no ? '<>' : '=';
        $constants = array_values(array_filter($written, $constant));
        if (\count($constants) < 2 || \count($constants) < \count($written)) {
            // Constants go into one list where there are several, and what is computed stands beside it.
            $single = \count($constants) < 2 ? $written : array_values(array_filter($written, static fn (Written $item): bool => !$item->isConstant()));
            $parts = array_map(fn (Written $item): string => $this->binary($sign, $left, $item)->sql, $single);
            if (\count($single) < \count($written)) {
                array_unshift($parts, $this->amongConstants($no, $left, $constants)->sql);
            }

            return new Written(1 === \count($parts) ? $parts[0] : '('.implode($no ? ' AND ' : ' OR ', $parts).')', 'bool');
        }

        return $this->amongConstants($no, $left, $constants);
    }

    /** @param list<Written> $written */
    private function amongConstants(bool $no, Written $left, array $written): Written
    {
        $sign = $no ? '<>' : '=';
        $common = $this->typing->overloads->common(array_map(fn (Written $item): string => $this->typing->based($item->type), [$left, ...$written]));
        if (null === $common) {
            throw new \UnexpectedValueException();
        }
        $array = new Written(
            'ARRAY['.implode(', ', array_map(fn (Written $item): string => $this->coerced($item, $common)->sql, $written)).']',
            $this->arrayOf($common),
        );

        return $this->any($sign, $no ? 'ALL' : 'ANY', $left, $array, $common);
    }

    private function any(string $sign, string $how, Written $left, Written $array, string $element): Written
    {
        $chosen = $this->typing->overloads->chosenOperator($sign, [$left->type, $element]);
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }
        $right = str_starts_with($chosen[1], 'any') || $chosen[1] === $element ? $array : $this->coerced($array, $this->arrayOf($chosen[1]));
        $a = $this->operand($left, $chosen[0], new Written('', $element));

        return new Written("($a->sql $sign $how ($right->sql))", 'bool');
    }

    private function arrayOf(string $internal): string
    {
        return $this->typing->overloads->catalog->types[$internal][3] ?? '_'.$internal;
    }

    /** @param list<Expression> $operands */
    private function quantified(string $sign, string $how, array $operands): Written
    {
        $left = $this->write($operands[0]);
        if (isset(self::LIKE[$sign])) {
            $sign = self::LIKE[$sign];
        }
        $right = $operands[1] instanceof ArrayOf ? $this->list($operands[1], null) : $this->write($operands[1]);
        if (self::UNKNOWN === $right->type) {
            $right = $this->coerced($right, $this->arrayOf($this->typing->based($left->type)));
        }
        if (!str_starts_with($right->type, '_')) {
            throw new \UnexpectedValueException();
        }

        return $this->any('!=' === $sign ? '<>' : $sign, $how, $left, $right, substr($right->type, 1));
    }

    /** @param list<Expression> $operands */
    private function like(string $sign, array $operands): Written
    {
        $pattern = $this->write($operands[1]);
        if (isset($operands[2])) {
            $escape = $this->coerced($this->write($operands[2]), 'text');
            $pattern = new Written('like_escape('.$this->coerced($pattern, 'text')->sql.', '.$escape->sql.')', 'text');
        }

        return $this->binary($sign, $this->write($operands[0]), $pattern);
    }

    /** @param list<Expression> $operands */
    private function similar(string $sign, array $operands): Written
    {
        $arguments = array_map(fn (Expression $each): string => $this->coerced($this->write($each), 'text')->sql, \array_slice($operands, 1));

        return $this->binary($sign, $this->write($operands[0]), new Written('similar_to_escape('.implode(', ', $arguments).')', 'text'));
    }

    private function collated(Expression $operand): Written
    {
        $value = $this->known($operand);
        $tail = substr($this->sql, $operand->end);
        if (1 !== preg_match('/^[\s)]*COLLATE\s+((?:"[^"]+"|\w+)(?:\s*\.\s*(?:"[^"]+"|\w+))?)/i', $tail, $m)) {
            throw new \UnexpectedValueException();
        }
        $name = (string) preg_replace('/^"?pg_catalog"?\s*\.\s*/i', '', $m[1]);

        return new Written("($value->sql COLLATE $name)", $value->type);
    }

    /** @param list<Expression> $operands */
    private function atZone(array $operands): Written
    {
        $value = $this->known($operands[0]);
        $zone = $this->write($operands[1]);
        $chosen = $this->typing->overloads->chosen('timezone', [$zone->type, $value->type]);
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }
        $a = $this->coerced($value, $chosen[0][1]);

        return new Written('('.$a->plain().' AT TIME ZONE '.$this->coerced($zone, $chosen[0][0])->sql.')', $chosen[1]);
    }

    private function interval(string $sign, Expression $operand): Written
    {
        if (!$operand instanceof Literal) {
            throw new \UnexpectedValueException();
        }
        $unit = strtolower(trim(substr($sign, 8)));
        $text = $operand->text.('' !== $unit && is_numeric($operand->text) ? ' '.$unit : '');

        return $this->constants->of('interval', $text);
    }

    private function cast(Cast $cast): Written
    {
        $type = $this->fullType($cast->type);
        $internal = $this->typing->internal($type);
        if ($cast->value instanceof ArrayOf && str_starts_with($internal, '_') && ($cast->value->at === $cast->at || [] === $cast->value->items)) {
            return $this->list($cast->value, substr($internal, 1), str_contains($type, '(') ? substr($type, 0, -2) : null);
        }
        $value = $this->write($cast->value);
        if (self::UNKNOWN === $value->type && $value->isConstant()) {
            if ($value->null) {
                return new Written("NULL::$type", $internal, null, true);
            }

            return $this->lengthened($this->constants->of($internal, (string) $value->value), $type, true);
        }
        if ($value->type === $internal) {
            return str_contains($type, '(') ? $this->lengthened($value, $type, false) : $value;
        }

        return new Written('('.$value->plain().')::'.$type, $internal);
    }

    /** What a type says of length is a cast of its own, which is not written twice. */
    private function lengthened(Written $value, string $type, bool $constant): Written
    {
        if (!str_contains($type, '(')) {
            return $value;
        }
        $internal = $value->type;
        if ($constant && null !== $value->value) {
            return new Written($this->constants->bare($internal, $value->value).'::'.$type, $internal);
        }

        return new Written('('.$value->plain().')::'.$type, $internal);
    }

    private function case(CaseOf $case): Written
    {
        $this->indent += 4;
        $subject = null === $case->subject ? null : $this->known($case->subject);
        $whens = $results = [];
        foreach ($case->whens as [$when, $then]) {
            $whens[] = null === $subject ? $this->boolean($this->write($when)) : $this->compared($subject, $this->write($when));
            $results[] = $this->write($then);
        }
        $else = null === $case->else ? new Written('NULL', self::UNKNOWN, null, true) : $this->write($case->else);
        $common = $this->commonOf([$else, ...$results]);
        $pad = str_repeat(' ', $this->indent);
        $sql = "\n".str_repeat(' ', $this->indent - 4).'CASE'.(null === $subject ? '' : ' '.$subject->sql);
        foreach ($whens as $i => $when) {
            $sql .= "\n{$pad}WHEN {$when->sql} THEN ".$this->coerced($results[$i], $common)->sql;
        }
        $this->indent -= 4;
        $sql .= "\n{$pad}ELSE ".$this->coerced($else, $common)->sql."\n".str_repeat(' ', $this->indent).'END';

        return new Written($sql, $common);
    }

    /** @param list<Written> $written */
    private function commonOf(array $written): string
    {
        $types = array_values(array_unique(array_map(static fn (Written $each): string => $each->type, $written)));
        if (1 === \count($types) && self::UNKNOWN !== $types[0]) {
            // Where all are of one domain, so is what comes of them.
            return $types[0];
        }

        return $this->typing->overloads->common(array_map(
            fn (Written $each): string => $this->typing->based($each->type),
            $written,
        )) ?? throw new \UnexpectedValueException();
    }

    private function compared(Written $subject, Written $when): Written
    {
        $chosen = $this->typing->overloads->chosenOperator('=', [$subject->type, $when->type]);

        return null === $chosen ? throw new \UnexpectedValueException() : $this->operand($when, $chosen[1], $subject);
    }

    /** @param ?string $full the type of its elements, where it says a length */
    private function list(ArrayOf $list, ?string $element, ?string $full = null): Written
    {
        $items = array_map($this->write(...), $list->items);
        if ([] === $items) {
            return null === $element
                ? throw new \UnexpectedValueException()
                : new Written('ARRAY[]::'.$this->shown($this->arrayOf($element)), $this->arrayOf($element));
        }
        $common = $element ?? $this->commonOf($items);
        $written = array_map(function (Written $item) use ($common, $element, $full): string {
            if (null !== $full && self::UNKNOWN === $item->type && null !== $item->value) {
                return $this->constants->bare($common, $item->value).'::'.$full;
            }
            $explicit = null !== $element && $item->type !== $common && self::UNKNOWN !== $item->type;

            return $explicit ? '('.$item->plain().')::'.$this->shown($common) : $this->coerced($item, $common)->sql;
        }, $items);

        return new Written('ARRAY['.implode(', ', $written).']', str_starts_with($common, '_') ? $common : $this->arrayOf($common));
    }

    private function element(Element $element): Written
    {
        $base = $this->write($element->base);
        if (!str_starts_with($base->type, '_')) {
            throw new \UnexpectedValueException();
        }
        $plain = $element->base instanceof Ref;
        if ($element->slice) {
            $edge = fn (?Expression $of): string => null === $of ? '' : $this->coerced($this->write($of), 'int4')->sql;

            return new Written(($plain ? $base->sql : "($base->sql)").'['.$edge($element->from).':'.$edge($element->to).']', $base->type);
        }
        if (null === $element->from) {
            throw new \UnexpectedValueException();
        }
        $index = $this->coerced($this->write($element->from), 'int4');

        return new Written(($plain ? $base->sql : "($base->sql)")."[$index->sql]", substr($base->type, 1));
    }

    private function call(Call $call): Written
    {
        $name = strtolower($call->names[\count($call->names) - 1]);
        if ($call->star || $call->distinct || null !== $call->over || [] !== $call->order || null !== $call->filter) {
            throw new \UnexpectedValueException();
        }
        if (isset(self::VALUES[$name]) && 1 === \count($call->names) && !str_contains($this->raw($call), '()')) {
            $decimals = [] === $call->arguments ? '' : '('.$this->write($call->arguments[0])->sql.')';
            $name = 'user' === $name ? 'current_user' : $name;

            return new Written(strtoupper($name).$decimals, self::VALUES[$name]);
        }
        if (1 === \count($call->names)) {
            $special = $this->special($name, $call);
            if (null !== $special) {
                return $special;
            }
        }
        $arguments = array_map($this->write(...), $call->arguments);

        return $this->function($name, $call->names[\count($call->names) - 2] ?? null, $arguments);
    }

    /** @param list<Written> $arguments */
    private function function(string $name, ?string $schema, array $arguments): Written
    {
        $types = array_map(static fn (Written $each): string => $each->type, $arguments);
        $own = $this->around->functions[$name] ?? null;
        $chosen = null === $own || 'pg_catalog' === $schema ? $this->typing->overloads->chosen($name, $types) : null;
        if (null !== $own && null === $chosen) {
            $list = array_map(static fn (Written $each): string => $each->plain(), array_map($this->coercedUnknown(...), $arguments));

            return new Written(
                $this->dialect->quotedName($own[0]).'.'.$this->dialect->quotedName($name).'('.implode(', ', $list).')',
                $this->typing->internal($own[1]),
            );
        }
        if (null === $chosen) {
            if (1 === \count($types) && null === $own && $this->typing->overloads->catalog->knows($name)) {
                return new Written('('.$arguments[0]->plain().')::'.$this->shown($this->typing->internal($name)), $this->typing->internal($name));
            }
            throw new \UnexpectedValueException();
        }
        $result = $this->typing->overloads->call($name, $types) ?? $chosen[1];
        $list = [];
        foreach ($arguments as $i => $argument) {
            $other = $arguments[0 === $i ? 1 : 0] ?? $argument;
            $any = 'any' === $chosen[0][$i] && self::UNKNOWN === $argument->type;
            $list[] = match (true) {
                !$any => $this->operand($argument, $chosen[0][$i], $other)->sql,
                $argument->null => 'NULL',
                default => $this->constants->bare('', (string) $argument->value),
            };
        }

        return new Written($this->dialect->quotedName($name).'('.implode(', ', $list).')', $result);
    }

    private function coercedUnknown(Written $written): Written
    {
        return self::UNKNOWN === $written->type ? $this->coerced($written, 'text') : $written;
    }

    /** Functions that have words between their arguments, or are no functions at all. */
    private function special(string $name, Call $call): ?Written
    {
        $arguments = $call->arguments;
        $raw = $this->raw($call);

        return match (true) {
            'coalesce' === $name, 'greatest' === $name, 'least' === $name => $this->common(strtoupper($name), $arguments),
            'nullif' === $name => $this->nullIf($arguments),
            'extract' === $name && $arguments[0] instanceof Literal => new Written(
                'EXTRACT('.strtolower($arguments[0]->text).' FROM '.$this->known($arguments[1])->plain().')',
                'numeric',
            ),
            'trim' === $name => $this->trim($raw, $arguments),
            'substring' === $name
                && 1 === preg_match(
                    '/\b(?:from|for)\b/i',
                    (string) preg_replace("/'[^']*'/", '', $raw),
                ) => $this->worded('SUBSTRING', $raw, ['FROM', 'FOR'], $arguments),
            'overlay' === $name && 1 === preg_match('/\bplacing\b/i', $raw) => $this->worded('OVERLAY', $raw, ['PLACING', 'FROM', 'FOR'], $arguments),
            'position' === $name && $arguments[0] instanceof Call && 'row' === $arguments[0]->names[0] => new Written(
                'POSITION(('.$this->coerced($this->write($arguments[0]->arguments[0]), 'text')
                    ->plain().') IN ('.$this
                    ->coerced($this->write($arguments[0]->arguments[1]), 'text')
                    ->plain().'))',
                'int4',
            ),
            default => null,
        };
    }

    /** @param list<Expression> $arguments */
    private function common(string $name, array $arguments): Written
    {
        $written = array_map($this->write(...), $arguments);
        $common = $this->commonOf($written);

        return new Written($name.'('.implode(', ', array_map(fn (Written $each): string => $this->coerced($each, $common)->sql, $written)).')', $common);
    }

    /** @param list<Expression> $arguments */
    private function nullIf(array $arguments): Written
    {
        [$a, $b] = array_map($this->write(...), $arguments);
        $chosen = $this->typing->overloads->chosenOperator('=', [$a->type, $b->type]) ?? throw new \UnexpectedValueException();
        [$left, $right] = [$this->operand($a, $chosen[0], $b), $this->operand($b, $chosen[1], $a)];

        return new Written("NULLIF($left->sql, $right->sql)", $left->type);
    }

    /** @param list<Expression> $arguments */
    private function trim(string $raw, array $arguments): Written
    {
        $side = 1 === preg_match('/^trim\s*\(\s*(leading|trailing|both)\b/i', $raw, $m) ? strtoupper($m[1]) : 'BOTH';
        if (1 === \count($arguments)) {
            return new Written("TRIM($side FROM ".$this->coerced($this->write($arguments[0]), 'text')->plain().')', 'text');
        }
        if (1 !== preg_match('/\bfrom\b/i', (string) preg_replace("/'[^']*'/", '', $raw))) {
            return new Written(
                "TRIM($side ".$this->coerced($this->write($arguments[1]), 'text')
                    ->plain().' FROM '.$this
                    ->coerced($this->write($arguments[0]), 'text')
                    ->plain().')',
                'text',
            );
        }
        [$what, $from] = array_map(fn (Expression $each): string => $this->coerced($this->write($each), 'text')->plain(), $arguments);

        return new Written("TRIM($side $what FROM $from)", 'text');
    }

    /**
     * @param list<string>     $words
     * @param list<Expression> $arguments
     */
    private function worded(string $name, string $raw, array $words, array $arguments): Written
    {
        $types = array_map(fn (Expression $each): string => $this->write($each)->type, $arguments);
        $chosen = $this->typing->overloads->chosen(strtolower($name), $types) ?? throw new \UnexpectedValueException();
        $parts = [];
        $bare = strtoupper((string) preg_replace("/'[^']*'/", '', $raw));
        $said = array_values(array_filter($words, static fn (string $word): bool => 1 === preg_match("/\\b$word\\b/", $bare)));
        foreach ($arguments as $i => $argument) {
            $parts[] = (0 === $i ? '' : $said[$i - 1].' ').$this->coerced($this->write($argument), $chosen[0][$i])->plain();
        }

        return new Written($name.'('.implode(' ', $parts).')', $chosen[1]);
    }
}
