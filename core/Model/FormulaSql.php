<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;

/** Writes an expression that FormulaReader has understood in the SQL of an engine. */
final readonly class FormulaSql
{
    /** @param \Closure(Ref): string $field how a field is written */
    public function __construct(private AskSql $sql, private \Closure $field)
    {
    }

    public function of(Expression $node): string
    {
        return match (true) {
            $node instanceof Ref => ($this->field)($node),
            $node instanceof Literal => $this->literal($node),
            $node instanceof Operation => $this->operation($node),
            $node instanceof Call => $this->call($node),
            $node instanceof CaseOf => $this->choice($node),
            $node instanceof Cast => $this->cast($node),
            $node instanceof RowOf => '('.implode(', ', array_map($this->of(...), $node->items)).')',
            default => throw new \LogicException(\sprintf('%s has not been understood and cannot be written.', $node::class)),
        };
    }

    private function cast(Cast $node): string
    {
        $type = TypeText::of($node->type);

        return $this->sql->cast(
            $this->of($node->value),
            FormulaReader::castTo($node->type) ?? throw new \LogicException('No such cast.'),
            $type->first(),
            $type->second(),
        );
    }

    /** An operand: within parentheses where it is more than one value. */
    private function inner(Expression $node): string
    {
        return $node instanceof Operation ? '('.$this->of($node).')' : $this->of($node);
    }

    private function literal(Literal $node): string
    {
        return match ($node->kind) {
            'number' => $node->text,
            'bool' => $this->sql->truth('TRUE' === strtoupper($node->text)),
            'null' => 'NULL',
            'typed' => $this->sql->moment($node->text, 'date' === strtolower((string) $node->type)),
            default => $this->sql->text($node->text),
        };
    }

    private function operation(Operation $node): string
    {
        $operands = array_map($this->inner(...), $node->operands);
        $sign = '!=' === $node->sign ? '<>' : $node->sign;

        return match (true) {
            1 === \count($operands) && 'NOT' === $sign => "NOT $operands[0]",
            1 === \count($operands) && str_starts_with($sign, 'IS ') => "$operands[0] $sign",
            1 === \count($operands) => $sign.$operands[0],
            '||' === $sign => $this->sql->joined($operands),
            '/' === $sign => $this->quotient($operands),
            '%' === $sign => $this->sql->computed('MOD', ...$operands),
            'LIKE' === $sign => $this->sql->like($operands[0], $operands[1]),
            'NOT LIKE' === $sign => 'NOT '.$this->sql->like($operands[0], $operands[1]),
            str_ends_with($sign, 'BETWEEN') => "$operands[0] $sign $operands[1] AND $operands[2]",
            str_ends_with($sign, 'IN') => $this->in($node, $sign, $operands),
            default => implode(" $sign ", $operands),
        };
    }

    /** @param list<string> $operands */
    private function in(Operation $node, string $sign, array $operands): string
    {
        $list = \array_slice($node->operands, 1);
        $row = 1 === \count($list) && $list[0] instanceof RowOf;

        return "$operands[0] $sign ".($row ? $operands[1] : '('.implode(', ', \array_slice($operands, 1)).')');
    }

    /** @param list<string> $operands */
    private function quotient(array $operands): string
    {
        $sql = $operands[0];
        foreach (\array_slice($operands, 1) as $i => $by) {
            $sql = $this->sql->divided(0 === $i ? $sql : "($sql)", $by);
        }

        return $sql;
    }

    private function call(Call $call): string
    {
        $name = FormulaReader::function($call->names[\count($call->names) - 1]);
        if ('EXTRACT' === $name) {
            $part = $call->arguments[0];
            $word = match (true) {
                $part instanceof Literal => $part->text,
                $part instanceof Ref => $part->names[0],
                default => '',
            };

            return $this->sql->extracted(strtoupper($word), $this->of($call->arguments[1]));
        }
        $values = array_map($this->of(...), $call->arguments);

        return match ($name) {
            'DAYS_BETWEEN' => $this->sql->daysBetween($values[0], $values[1]),
            'FISCAL_YEAR', 'FISCAL_QUARTER', 'FISCAL_MONTH' => $this->fiscal($name, $values[0], (int) $values[1]),
            'ROUND' => $this->sql->rounded($values[0], $values[1] ?? null),
            'CHAR_LENGTH' => $this->sql->length($values[0]),
            'SUBSTRING' => $this->sql->part($values[0], $values[1], $values[2] ?? null),
            'GREATEST', 'LEAST' => $this->sql->outermost($name, ...$values),
            'ABS', 'FLOOR', 'CEILING', 'MOD', 'POWER', 'SQRT' => $this->sql->computed($name, ...$values),
            default => $name.'('.implode(', ', $values).')',
        };
    }

    /** Of a year that begins with a month, and is named by the year in which it ends. */
    private function fiscal(string $name, string $date, int $first): string
    {
        $month = $this->sql->extracted('MONTH', $date);
        if ('FISCAL_YEAR' === $name) {
            $year = $this->sql->extracted('YEAR', $date);

            return 1 === $first ? $year : "CASE WHEN $month >= $first THEN ($year) + 1 ELSE $year END";
        }
        $back = $first - 1;
        $of = "CASE WHEN $month >= $first THEN ($month) - $back ELSE ($month) + ".(12 - $back).' END';

        return 'FISCAL_MONTH' === $name ? $of : "CASE WHEN $of <= 3 THEN 1 WHEN $of <= 6 THEN 2 WHEN $of <= 9 THEN 3 WHEN $month IS NOT NULL THEN 4 END";
    }

    private function choice(CaseOf $node): string
    {
        $sql = 'CASE'.(null === $node->subject ? '' : ' '.$this->of($node->subject));
        foreach ($node->whens as [$when, $then]) {
            $sql .= ' WHEN '.$this->of($when).' THEN '.$this->of($then);
        }

        return $sql.(null === $node->else ? '' : ' ELSE '.$this->of($node->else)).' END';
    }
}
