<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Element;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Ref;

/** Calls, casts and choices, as the server writes them. */
final class PostgreSqlCalls
{
    private const VALUES = [
        'current_date' => 'date', 'current_time' => 'timetz', 'current_timestamp' => 'timestamptz', 'localtime' => 'time', 'localtimestamp' => 'timestamp',
        'current_user' => 'name', 'current_role' => 'name', 'session_user' => 'name', 'user' => 'name', 'current_catalog' => 'name', 'current_schema' => 'name',
    ];

    public function __construct(private readonly PostgreSqlWriting $all)
    {
    }

    public function cast(Cast $cast): Written
    {
        $type = $this->all->fullType($cast->type);
        $internal = $this->all->typing->internal($type);
        if ($cast->value instanceof ArrayOf && str_starts_with($internal, '_') && ($cast->value->at === $cast->at || [] === $cast->value->items)) {
            return $this->list($cast->value, substr($internal, 1), str_contains($type, '(') ? substr($type, 0, -2) : null);
        }
        $value = $this->all->write($cast->value);
        if (PostgreSqlWriting::UNKNOWN === $value->type && $value->isConstant()) {
            if ($value->null) {
                return new Written("NULL::$type", $internal, null, true);
            }

            return $this->lengthened($this->all->constants->of($internal, (string) $value->value), $type, true);
        }
        if ($value->type === $internal) {
            return str_contains($type, '(') ? $this->lengthened($value, $type, false) : $value;
        }

        return new Written('('.$value->plain().')::'.$type, $internal);
    }

    /** What a type says of length is a cast of its own, which is not written twice. */
    public function lengthened(Written $value, string $type, bool $constant): Written
    {
        if (!str_contains($type, '(')) {
            return $value;
        }
        $internal = $value->type;
        if ($constant && null !== $value->value) {
            return new Written($this->all->constants->bare($internal, $value->value).'::'.$type, $internal);
        }

        return new Written('('.$value->plain().')::'.$type, $internal);
    }

    public function case(CaseOf $case): Written
    {
        $this->all->indent += 4;
        $subject = null === $case->subject ? null : $this->all->operations->known($case->subject);
        $whens = $results = [];
        foreach ($case->whens as [$when, $then]) {
            $whens[] = null === $subject ? $this->all->boolean($this->all->write($when)) : $this->compared($subject, $this->all->write($when));
            $results[] = $this->all->write($then);
        }
        $else = null === $case->else ? new Written('NULL', PostgreSqlWriting::UNKNOWN, null, true) : $this->all->write($case->else);
        $common = $this->commonOf([$else, ...$results]);
        $pad = str_repeat(' ', $this->all->indent);
        $sql = "\n".str_repeat(' ', $this->all->indent - 4).'CASE'.(null === $subject ? '' : ' '.$subject->sql);
        foreach ($whens as $i => $when) {
            $sql .= "\n{$pad}WHEN {$when->sql} THEN ".$this->all->coerced($results[$i], $common)->sql;
        }
        $this->all->indent -= 4;
        $sql .= "\n{$pad}ELSE ".$this->all->coerced($else, $common)->sql."\n".str_repeat(' ', $this->all->indent).'END';

        return new Written($sql, $common);
    }

    /** @param list<Written> $written */
    private function commonOf(array $written): string
    {
        $types = array_values(array_unique(array_map(static fn (Written $each): string => $each->type, $written)));
        if (1 === \count($types) && PostgreSqlWriting::UNKNOWN !== $types[0]) {
            // Where all are of one domain, so is what comes of them.
            return $types[0];
        }

        return $this->all->typing->overloads->common(array_map(
            fn (Written $each): string => $this->all->typing->based($each->type),
            $written,
        )) ?? throw new \UnexpectedValueException();
    }

    private function compared(Written $subject, Written $when): Written
    {
        $chosen = $this->all->typing->overloads->chosenOperator('=', [$subject->type, $when->type]);

        return null === $chosen ? throw new \UnexpectedValueException() : $this->all->operations->operand($when, $chosen[1], $subject);
    }

    /** @param ?string $full the type of its elements, where it says a length */
    public function list(ArrayOf $list, ?string $element, ?string $full = null): Written
    {
        $items = array_map($this->all->write(...), $list->items);
        if ([] === $items) {
            return null === $element
                ? throw new \UnexpectedValueException()
                : new Written('ARRAY[]::'.$this->all->shown($this->all->operations->arrayOf($element)), $this->all->operations->arrayOf($element));
        }
        $common = $element ?? $this->commonOf($items);
        $written = array_map(function (Written $item) use ($common, $element, $full): string {
            if (null !== $full && PostgreSqlWriting::UNKNOWN === $item->type && null !== $item->value) {
                return $this->all->constants->bare($common, $item->value).'::'.$full;
            }
            $explicit = null !== $element && $item->type !== $common && PostgreSqlWriting::UNKNOWN !== $item->type;

            return $explicit ? '('.$item->plain().')::'.$this->all->shown($common) : $this->all->coerced($item, $common)->sql;
        }, $items);

        return new Written('ARRAY['.implode(', ', $written).']', str_starts_with($common, '_') ? $common : $this->all->operations->arrayOf($common));
    }

    public function element(Element $element): Written
    {
        $base = $this->all->write($element->base);
        if (!str_starts_with($base->type, '_')) {
            throw new \UnexpectedValueException();
        }
        $plain = $element->base instanceof Ref;
        if ($element->slice) {
            $edge = fn (?Expression $of): string => null === $of ? '' : $this->all->coerced($this->all->write($of), 'int4')->sql;

            return new Written(($plain ? $base->sql : "($base->sql)").'['.$edge($element->from).':'.$edge($element->to).']', $base->type);
        }
        if (null === $element->from) {
            throw new \UnexpectedValueException();
        }
        $index = $this->all->coerced($this->all->write($element->from), 'int4');

        return new Written(($plain ? $base->sql : "($base->sql)")."[$index->sql]", substr($base->type, 1));
    }

    public function call(Call $call): Written
    {
        $name = strtolower($call->names[\count($call->names) - 1]);
        if ($call->star || $call->distinct || null !== $call->over || [] !== $call->order || null !== $call->filter) {
            throw new \UnexpectedValueException();
        }
        if (isset(self::VALUES[$name]) && 1 === \count($call->names) && !str_contains($this->all->raw($call), '()')) {
            $decimals = [] === $call->arguments ? '' : '('.$this->all->write($call->arguments[0])->sql.')';
            $name = 'user' === $name ? 'current_user' : $name;

            return new Written(strtoupper($name).$decimals, self::VALUES[$name]);
        }
        if (1 === \count($call->names)) {
            $special = $this->special($name, $call);
            if (null !== $special) {
                return $special;
            }
        }
        $arguments = array_map($this->all->write(...), $call->arguments);

        return $this->function($name, $call->names[\count($call->names) - 2] ?? null, $arguments);
    }

    /** @param list<Written> $arguments */
    private function function(string $name, ?string $schema, array $arguments): Written
    {
        $types = array_map(static fn (Written $each): string => $each->type, $arguments);
        $own = $this->all->around->functions[$name] ?? null;
        $chosen = null === $own || 'pg_catalog' === $schema ? $this->all->typing->overloads->chosen($name, $types) : null;
        if (null !== $own && null === $chosen) {
            $list = array_map(static fn (Written $each): string => $each->plain(), array_map($this->coercedUnknown(...), $arguments));

            return new Written(
                $this->all->dialect->quotedName($own[0]).'.'.$this->all->dialect->quotedName($name).'('.implode(', ', $list).')',
                $this->all->typing->internal($own[1]),
            );
        }
        if (null === $chosen) {
            if (1 === \count($types) && null === $own && $this->all->typing->overloads->catalog->knows($name)) {
                return new Written(
                    '('.$arguments[0]->plain().')::'.$this->all->shown($this->all->typing->internal($name)),
                    $this->all->typing->internal($name),
                );
            }
            throw new \UnexpectedValueException();
        }
        $result = $this->all->typing->overloads->call($name, $types) ?? $chosen[1];
        $list = [];
        foreach ($arguments as $i => $argument) {
            $other = $arguments[0 === $i ? 1 : 0] ?? $argument;
            $any = 'any' === $chosen[0][$i] && PostgreSqlWriting::UNKNOWN === $argument->type;
            $list[] = match (true) {
                !$any => $this->all->operations->operand($argument, $chosen[0][$i], $other)->sql,
                $argument->null => 'NULL',
                default => $this->all->constants->bare('', (string) $argument->value),
            };
        }

        return new Written($this->all->dialect->quotedName($name).'('.implode(', ', $list).')', $result);
    }

    public function coercedUnknown(Written $written): Written
    {
        return PostgreSqlWriting::UNKNOWN === $written->type ? $this->all->coerced($written, 'text') : $written;
    }

    /** Functions that have words between their arguments, or are no functions at all. */
    private function special(string $name, Call $call): ?Written
    {
        $arguments = $call->arguments;
        $raw = $this->all->raw($call);

        return match (true) {
            'coalesce' === $name, 'greatest' === $name, 'least' === $name => $this->common(strtoupper($name), $arguments),
            'nullif' === $name => $this->nullIf($arguments),
            'extract' === $name && $arguments[0] instanceof Literal => new Written(
                'EXTRACT('.strtolower($arguments[0]->text).' FROM '.$this->all->operations->known($arguments[1])->plain().')',
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
                'POSITION(('.$this->all->coerced($this->all->write($arguments[0]->arguments[0]), 'text')
                    ->plain().') IN ('.$this->all->coerced($this->all->write($arguments[0]->arguments[1]), 'text')
                    ->plain().'))',
                'int4',
            ),
            default => null,
        };
    }

    /** @param list<Expression> $arguments */
    private function common(string $name, array $arguments): Written
    {
        $written = array_map($this->all->write(...), $arguments);
        $common = $this->commonOf($written);

        return new Written($name.'('.implode(', ', array_map(fn (Written $each): string => $this->all->coerced($each, $common)->sql, $written)).')', $common);
    }

    /** @param list<Expression> $arguments */
    private function nullIf(array $arguments): Written
    {
        [$a, $b] = array_map($this->all->write(...), $arguments);
        $chosen = $this->all->typing->overloads->chosenOperator('=', [$a->type, $b->type]) ?? throw new \UnexpectedValueException();
        $left = $this->all->operations->operand($a, $chosen[0], $b);
        $right = $this->all->operations->operand($b, $chosen[1], $a);

        return new Written("NULLIF($left->sql, $right->sql)", $left->type);
    }

    /** @param list<Expression> $arguments */
    private function trim(string $raw, array $arguments): Written
    {
        $side = 1 === preg_match('/^trim\s*\(\s*(leading|trailing|both)\b/i', $raw, $m) ? strtoupper($m[1]) : 'BOTH';
        if (1 === \count($arguments)) {
            return new Written("TRIM($side FROM ".$this->all->coerced($this->all->write($arguments[0]), 'text')->plain().')', 'text');
        }
        if (1 !== preg_match('/\bfrom\b/i', (string) preg_replace("/'[^']*'/", '', $raw))) {
            return new Written(
                "TRIM($side ".$this->all->coerced($this->all->write($arguments[1]), 'text')
                    ->plain().' FROM '.$this->all->coerced($this->all->write($arguments[0]), 'text')
                    ->plain().')',
                'text',
            );
        }
        [$what, $from] = array_map(fn (Expression $each): string => $this->all->coerced($this->all->write($each), 'text')->plain(), $arguments);

        return new Written("TRIM($side $what FROM $from)", 'text');
    }

    /**
     * @param list<string>     $words
     * @param list<Expression> $arguments
     */
    private function worded(string $name, string $raw, array $words, array $arguments): Written
    {
        $types = array_map(fn (Expression $each): string => $this->all->write($each)->type, $arguments);
        $chosen = $this->all->typing->overloads->chosen(strtolower($name), $types) ?? throw new \UnexpectedValueException();
        $parts = [];
        $bare = strtoupper((string) preg_replace("/'[^']*'/", '', $raw));
        $said = array_values(array_filter($words, static fn (string $word): bool => 1 === preg_match("/\\b$word\\b/", $bare)));
        foreach ($arguments as $i => $argument) {
            $parts[] = (0 === $i ? '' : $said[$i - 1].' ').$this->all->coerced($this->all->write($argument), $chosen[0][$i])->plain();
        }

        return new Written($name.'('.implode(' ', $parts).')', $chosen[1]);
    }
}
