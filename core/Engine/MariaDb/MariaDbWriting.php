<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Engine\MySql\MySqlWriting;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;

/** Writes expressions as MariaDB does: parentheses only where they are needed, and what is negated turned round. */
final class MariaDbWriting extends MySqlWriting
{
    private const KEPT_AS = [
        'upper' => 'ucase', 'lower' => 'lcase', 'length' => 'octet_length', 'substring' => 'substr', 'mid' => 'substr', 'character_length' => 'char_length',
        'current_date' => 'curdate', 'current_time' => 'curtime', 'power' => 'pow', 'ceil' => 'ceiling', 'day' => 'dayofmonth', 'sha1' => 'sha',
        'position' => 'locate',
        'stddev_pop' => 'std', 'stddev' => 'std', 'var_pop' => 'variance', 'schema' => 'database', 'session_user' => 'user', 'system_user' => 'user',
    ];
    private const TURNED = ['=' => '<>', '<>' => '=', '!=' => '=', '<' => '>=', '>' => '<=', '<=' => '>', '>=' => '<'];

    protected function top(Expression $node): string
    {
        return $this->write($this->turned($node));
    }

    protected function operation(Operation $node): string
    {
        return $this->bareOperation($node);
    }

    protected function write(Expression $node): string
    {
        return parent::write($this->turned($node));
    }

    protected function operand(Expression $node, int $least): string
    {
        $node = $this->turned($node);
        $written = parent::write($node);

        return $this->bindingOf($node) < $least ? "($written)" : $written;
    }

    protected function parenthesised(): bool
    {
        return false;
    }

    protected function modulo(): string
    {
        return 'MOD';
    }

    protected function not(): string
    {
        return '  not ';
    }

    protected function keptAs(string $name): string
    {
        return self::KEPT_AS[$name] ?? $name;
    }

    protected function now(string $decimals): string
    {
        return "current_timestamp($decimals)";
    }

    /** The server carries NOT into what it negates. */
    private function turned(Expression $node): Expression
    {
        if (!$node instanceof Operation || !\in_array($node->sign, ['NOT', '!'], true) || 1 !== \count($node->operands)) {
            return $node;
        }
        $inner = $node->operands[0];
        if (!$inner instanceof Operation) {
            return $node;
        }
        $made = match (true) {
            2 === \count($inner->operands) && isset(self::TURNED[$inner->sign]) => new Operation(self::TURNED[$inner->sign], $inner->operands),
            'AND' === $inner->sign || '&&' === $inner->sign => new Operation('OR', array_map($this->negated(...), $inner->operands)),
            'OR' === $inner->sign || ('||' === $inner->sign) => new Operation('AND', array_map($this->negated(...), $inner->operands)),
            'IS NULL' === $inner->sign => new Operation('IS NOT NULL', $inner->operands),
            'IS NOT NULL' === $inner->sign => new Operation('IS NULL', $inner->operands),
            \in_array($inner->sign, ['BETWEEN', 'IN', 'LIKE', 'REGEXP', 'RLIKE'], true) => new Operation('NOT '.$inner->sign, $inner->operands),
            \in_array($inner->sign, ['NOT BETWEEN', 'NOT IN'], true) => new Operation(substr($inner->sign, 4), $inner->operands),
            \in_array($inner->sign, ['NOT', '!'], true) => $inner->operands[0],
            default => $node,
        };
        $made->at = $node->at;
        $made->end = $node->end;

        return $made;
    }

    private function negated(Expression $node): Operation
    {
        $not = new Operation('NOT', [$node]);
        $not->at = $node->at;
        $not->end = $node->end;

        return $not;
    }

    protected function unary(string $sign, Expression $operand, int $binding): string
    {
        if ('NOT' === $sign || '!' === $sign) {
            return '!'.$this->operand($operand, 120);
        }
        if ('BINARY' === $sign) {
            return 'cast('.$this->write($operand).' as char charset binary)';
        }

        return parent::unary($sign, $operand, $binding);
    }

    protected function call(Call $call): string
    {
        $name = strtolower($call->names[\count($call->names) - 1]);
        if ('datediff' === $name && 2 === \count($call->arguments)) {
            return 'to_days('.$this->write($call->arguments[0]).') - to_days('.$this->write($call->arguments[1]).')';
        }
        if (\in_array($name, ['nextval', 'next_value_for'], true)) {
            throw new \UnexpectedValueException();
        }

        return parent::call($call);
    }

    protected function bindingOf(Expression $node): int
    {
        if ($node instanceof Call) {
            $name = strtolower($node->names[\count($node->names) - 1]);

            return match ($name) {
                'datediff' => 80,
                'date_add', 'adddate', 'date_sub', 'subdate' => 78,
                'mod' => 90,
                'isnull' => 50,
                default => self::HIGHEST,
            };
        }
        if ($node instanceof Literal && 'number' === $node->kind) {
            return self::HIGHEST;
        }
        if ($node instanceof Operation && 1 === \count($node->operands)) {
            if (\in_array($node->sign, ['NOT', '!', '~'], true)) {
                return 120;
            }
            if ('BINARY' === $node->sign || '+' === $node->sign) {
                return self::HIGHEST;
            }
            if ('-' === $node->sign && $node->operands[0] instanceof Literal) {
                return self::HIGHEST;
            }
        }

        return parent::bindingOf($node);
    }
}
