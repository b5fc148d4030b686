<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

use Fasti\Core\Dialect\Surroundings;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;

/**
 * Writes expressions as MySQL's catalog does: each operation in parentheses, names in backticks, functions in small letters
 * and by the names under which the server keeps them. What it does not know how to write stands as it was.
 */
class MySqlWriting
{
    /** Functions that the server calls otherwise than they may be written. */
    private const KEPT_AS = [
        'ucase' => 'upper', 'lcase' => 'lower', 'octet_length' => 'length', 'substring' => 'substr', 'mid' => 'substr', 'character_length' => 'char_length',
        'current_date' => 'curdate', 'current_time' => 'curtime', 'power' => 'pow', 'ceil' => 'ceiling', 'day' => 'dayofmonth', 'sha1' => 'sha',
        'position' => 'locate',
        'stddev_pop' => 'std', 'stddev' => 'std', 'var_pop' => 'variance', 'schema' => 'database', 'session_user' => 'user', 'system_user' => 'user',
        'localtime' => 'now', 'localtimestamp' => 'now', 'current_timestamp' => 'now', 'sysdate' => 'sysdate',
    ];
    /** How tightly operators bind where they are written without parentheses. */
    private const BINDING = [
        'OR' => 10, '||' => 10, 'XOR' => 15, 'AND' => 20, '&&' => 20, 'NOT' => 30, 'BETWEEN' => 48, '|' => 72, '&' => 74, '<<' => 76, '>>' => 76, '+' => 80,
        '-' => 80,
        '*' => 90, '/' => 90, '%' => 90, 'MOD' => 90, 'DIV' => 90, '^' => 100, '~' => 120, '!' => 120, 'COLLATE' => 115, 'BINARY' => 116,
    ];
    protected const HIGHEST = 200;

    protected string $sql = '';

    public function __construct(protected readonly MySqlGrammar $dialect)
    {
    }

    public function expression(string $sql, Surroundings $around): string
    {
        $tree = $this->read($sql);
        if (null === $tree) {
            return self::blanks($sql);
        }
        try {
            return $this->top($tree);
        } catch (\UnexpectedValueException) {
            return self::blanks($sql);
        }
    }

    /** As a default that is computed is kept. */
    public function inParentheses(string $sql, Surroundings $around): string
    {
        $written = $this->expression($sql, $around);
        $tree = $this->read($sql);
        $bare = $tree instanceof Call
            || $tree instanceof Literal
            || $tree instanceof Ref
            || $tree instanceof Cast
            || null === $tree
            || str_starts_with($written, '(');

        return $bare ? $written : "($written)";
    }

    /**
     * A default that is a value.
     *
     * @return array{string, string}|null its kind (text, number, bits, bytes, null) and what it is; null where it is computed
     */
    public function value(string $sql): ?array
    {
        $tree = $this->read($sql);
        $sign = '';
        if ($tree instanceof Operation && 1 === \count($tree->operands) && \in_array($tree->sign, ['-', '+'], true)) {
            $sign = '-' === $tree->sign ? '-' : '';
            $tree = $tree->operands[0];
        }
        if (!$tree instanceof Literal) {
            return null;
        }

        return match ($tree->kind) {
            'text', 'national' => ['text', $tree->text],
            'number' => 1 === preg_match('/^0b([01]+)$/', $tree->text, $m) ? ['bits', $m[1]] : ['number', $sign.$tree->text],
            'bits' => ['bits', $tree->text],
            'bytes' => ['bytes', (string) hex2bin($tree->text)],
            'bool' => ['number', 'TRUE' === strtoupper($tree->text) ? '1' : '0'],
            'null' => ['null', ''],
            'typed' => ['text', $tree->text],
            default => null,
        };
    }

    private function read(string $sql): ?Expression
    {
        $this->sql = $sql;

        return Parser::expression($sql, $this->dialect);
    }

    protected static function blanks(string $sql): string
    {
        return trim((string) preg_replace_callback(
            '/\'(?:[^\'\\\\]|\\\\.)*\'|"(?:[^"\\\\]|\\\\.)*"|`[^`]*`|\s+/s',
            static fn (array $m): string => '' === trim($m[0]) ? ' ' : $m[0],
            $sql,
        ));
    }

    protected function top(Expression $node): string
    {
        return $this->write($node);
    }

    protected function write(Expression $node): string
    {
        return match (true) {
            $node instanceof Literal => $this->literal($node),
            $node instanceof Ref => $this->ref($node),
            $node instanceof Operation => $this->operation($node),
            $node instanceof Call => $this->call($node),
            $node instanceof Cast => $this->cast($node),
            $node instanceof CaseOf => $this->case($node),
            $node instanceof RowOf => '('.$this->list($node->items).')',
            default => throw new \UnexpectedValueException(),
        };
    }

    /** @param list<Expression> $nodes */
    protected function list(array $nodes): string
    {
        return implode(',', array_map($this->write(...), $nodes));
    }

    protected function raw(Expression $node): string
    {
        return substr($this->sql, $node->at, $node->end - $node->at);
    }

    private function ref(Ref $ref): string
    {
        $name = $ref->names[\count($ref->names) - 1];

        return $this->dialect->quotedName($name);
    }

    protected function literal(Literal $literal): string
    {
        $text = $literal->text;
        $raw = trim($this->raw($literal));
        $quoted = "'".strtr($text, ['\\' => '\\\\', "'" => "\\'", "\n" => '\\n', "\r" => '\\r', "\0" => '\\0', "\x1a" => '\\Z'])."'";

        return match ($literal->kind) {
            'text' => (1 === preg_match('/^(_\w+)/', $raw, $m) ? strtolower($m[1]) : '').$quoted,
            'national' => $quoted,
            'number' => match (true) {
                1 === preg_match('/^0x/i', $text) => '0x'.strtolower(substr($text, 2)),
                1 === preg_match('/^0b([01]+)$/', $text, $m) => "b'$m[1]'",
                default => $this->numeral($text),
            },
            'bits' => "b'$text'",
            'bytes' => "X'".strtoupper($text)."'",
            'bool' => 'TRUE' === strtoupper($text) ? '1' : '0',
            'null' => 'NULL',
            'typed' => strtoupper((string) $literal->type).$quoted,
            default => throw new \UnexpectedValueException(),
        };
    }

    private function numeral(string $text): string
    {
        return 1 === preg_match('/^\.\d/', $text) ? '0'.$text : strtolower($text);
    }

    protected function operation(Operation $node): string
    {
        return '('.$this->bareOperation($node).')';
    }

    protected function operand(Expression $node, int $least): string
    {
        return $this->write($node);
    }

    /** An operation without parentheses around it; operands as tightly as they must bind. */
    protected function bareOperation(Operation $node): string
    {
        $sign = $node->sign;
        $operands = $node->operands;
        $binding = $this->bindingOf($node);
        if (1 === \count($operands)) {
            return $this->unary($sign, $operands[0], $binding);
        }
        if ('BETWEEN' === $sign || 'NOT BETWEEN' === $sign) {
            return $this->operand($operands[0], $binding + 1).' '.strtolower($sign).' '.$this->operand($operands[1], $binding + 1).' and '
                .$this->operand($operands[2], $binding);
        }
        if ('IN' === $sign || 'NOT IN' === $sign) {
            return 2 === \count($operands) ? $this->operand($operands[0], 50).('IN' === $sign ? ' = ' : ' <> ').$this->operand($operands[1], 51)
                : $this->operand($operands[0], 51).' '.strtolower($sign).' ('.$this->list(\array_slice($operands, 1)).')';
        }
        if (1 === preg_match('/(?:LIKE|REGEXP)$/', $sign)) {
            $not = str_starts_with($sign, 'NOT ') ? $this->not() : ' ';
            $match = 1 === preg_match('/(?<!R)LIKE$/', $sign) ? 'like ' : 'regexp ';
            $escape = isset($operands[2]) ? ' escape '.$this->write($operands[2]) : '';

            return $this->operand($operands[0], 50).$not.$match.$this->operand($operands[1], 51).$escape;
        }
        if (2 === \count($operands) && $operands[1] instanceof Operation && str_starts_with($operands[1]->sign, 'INTERVAL')) {
            return $this->operand($operands[0], 78)." $sign ".$this->interval($operands[1]);
        }
        if (1 !== preg_match('/^(?:[-+*\/%<>=!|&^]+|AND|OR|XOR|DIV|MOD)$/', $sign)) {
            throw new \UnexpectedValueException();
        }
        $word = $this->word($sign);
        $written = $this->operand($operands[0], $binding);
        foreach (\array_slice($operands, 1) as $operand) {
            $written .= " $word ".$this->operand($operand, $binding + (\in_array($word, ['and', 'or'], true) ? 0 : 1));
        }

        return $written;
    }

    private function word(string $sign): string
    {
        return match ($sign) {
            'AND', '&&' => 'and',
            'OR', '||' => 'or',
            'XOR' => 'xor',
            '!=' => '<>',
            '%', 'MOD' => $this->modulo(),
            default => $sign,
        };
    }

    private function interval(Operation $interval): string
    {
        return 'interval '.$this->operand($interval->operands[0], self::HIGHEST).' '.strtolower(substr($interval->sign, 9));
    }

    protected function modulo(): string
    {
        return '%';
    }

    protected function not(): string
    {
        return ' not ';
    }

    protected function bindingOf(Expression $node): int
    {
        if ($node instanceof Operation) {
            if (1 === \count($node->operands) && '-' === $node->sign) {
                return 110;
            }
            if (str_starts_with($node->sign, 'INTERVAL')) {
                return 78;
            }

            return self::BINDING[(string) preg_replace('/^NOT (?=BETWEEN)/', '', $node->sign)] ?? 50;
        }

        return self::HIGHEST;
    }

    protected function unary(string $sign, Expression $operand, int $binding): string
    {
        return match (true) {
            '-' === $sign => $operand instanceof Literal && 'number' === $operand->kind ? '-'.$this->write($operand) : '-'.$this->operand($operand, $binding),
            '+' === $sign => $this->write($operand),
            '~' === $sign => '~'.$this->operand($operand, $binding),
            'NOT' === $sign, '!' === $sign => 'not('.$this->write($operand).')',
            1 === preg_match('/^IS (?:NOT )?(?:NULL|TRUE|FALSE|UNKNOWN)$/', $sign) => $this->operand($operand, 50).' '.strtolower($sign),
            'COLLATE' === $sign => $this->collated($operand, $binding),
            'BINARY' === $sign => 'cast('.$this->write($operand).' as char charset binary)',
            default => throw new \UnexpectedValueException(),
        };
    }

    private function collated(Expression $operand, int $binding): string
    {
        return 1 === preg_match(
            '/\bCOLLATE\s+[`\'"]?(\w+)/i',
            substr($this->sql, $operand->end),
            $m,
        ) ? $this->operand($operand, $binding).' collate '.Charsets::collationNamed($m[1])
            : throw new \UnexpectedValueException();
    }

    protected function call(Call $call): string
    {
        if ($call->star || $call->distinct || null !== $call->over || [] !== $call->order || null !== $call->filter || null !== $call->type) {
            throw new \UnexpectedValueException();
        }
        $name = strtolower($call->names[\count($call->names) - 1]);
        $arguments = $call->arguments;

        return $this->special($call, $name, $arguments) ?? $this->keptAs($name).'('.$this->list($arguments).')';
    }

    /**
     * A call that the server keeps in other words.
     *
     * @param list<Expression> $arguments
     */
    private function special(Call $call, string $name, array $arguments): ?string
    {
        $first = $arguments[0] ?? null;
        $two = 2 === \count($arguments);

        return match ($name) {
            'date_add', 'adddate', 'date_sub', 'subdate' => $two ? $this->shifted($name, $arguments[0], $arguments[1]) : null,
            'position' => $first instanceof Call && 'row' === $first->names[0] ? 'locate('.$this->list($first->arguments).')' : null,
            'mod' => $two ? $this->operation(new Operation('%', [$arguments[0], $arguments[1]])) : null,
            'isnull' => 1 === \count($arguments) ? $this->operation(new Operation('IS NULL', [$arguments[0]])) : null,
            'extract' => $first instanceof Literal ? 'extract('.strtolower($first->text).' from '.$this->write($arguments[1]).')' : null,
            'trim' => $this->trimmed($call, $arguments),
            'timestampdiff', 'timestampadd' => $first instanceof Literal
                ? $name.'('.strtoupper($first->text).','.$this->list(\array_slice($arguments, 1)).')' : null,
            'current_timestamp', 'now', 'localtime', 'localtimestamp' => $this->now(null === $first ? '' : $this->write($first)),
            default => null,
        };
    }

    /** @param list<Expression> $arguments */
    private function trimmed(Call $call, array $arguments): ?string
    {
        if (1 !== preg_match('/^trim\s*\(\s*(both|leading|trailing)\b/i', $this->raw($call), $m)) {
            return null;
        }
        $side = 'trim('.strtolower($m[1]).' ';

        return 1 === \count($arguments) ? $side.'from '.$this->write($arguments[0]).')'
            : $side.$this->write($arguments[0]).' from '.$this->write($arguments[1]).')';
    }

    protected function keptAs(string $name): string
    {
        return self::KEPT_AS[$name] ?? $name;
    }

    protected function now(string $decimals): string
    {
        return "now($decimals)";
    }

    /** A date and an interval. */
    private function shifted(string $name, Expression $date, Expression $by): string
    {
        $sign = str_ends_with($name, 'add') || 'adddate' === $name ? '+' : '-';
        $interval = $by instanceof Operation && str_starts_with($by->sign, 'INTERVAL') ? $this->interval($by) : 'interval '.$this->write($by).' day';
        $written = $this->operand($date, 78)." $sign ".$interval;

        return $this->parenthesised() ? "($written)" : $written;
    }

    protected function parenthesised(): bool
    {
        return true;
    }

    protected function cast(Cast $cast): string
    {
        $raw = $this->raw($cast);
        if (1 === preg_match('/^convert\b.*\busing\s+`?(\w+)`?\s*\)$/is', $raw, $m)) {
            return 'convert('.$this->write($cast->value).' using '.Charsets::named(strtolower($m[1])).')';
        }
        $type = strtolower($cast->type);
        $said = 1 === preg_match('/\b(?:as|,)\s*(\w+)(?:\s+(?:integer|int))?\s*(\([^)]*\))?\s*(?:(?:character\s+set|charset)\s+(\w+))?\s*\)$/i', $raw, $m);
        if ($said) {
            $word = strtolower($m[1]);
            $options = preg_replace('/\s+/', '', $m[2] ?? '');
            $type = match ($word) {
                'char', 'character', 'nchar' => 'char'.$options.' charset '.Charsets::named(strtolower(($m[3] ?? '') ?: 'utf8mb4')),
                'signed', 'int', 'integer' => 'signed',
                'unsigned' => 'unsigned',
                'binary' => 'char'.$options.' charset binary',
                'decimal', 'dec' => 'decimal'.(match (true) {
                    '' === (string) $options => '(10,0)',
                    str_contains((string) $options, ',') => $options,
                    default => str_replace(')', ',0)', (string) $options),
                }),
                default => $word.$options,
            };
        }

        return 'cast('.$this->write($cast->value).' as '.$type.')';
    }

    protected function case(CaseOf $case): string
    {
        $written = 'case'.(null === $case->subject ? '' : ' '.$this->write($case->subject));
        foreach ($case->whens as [$when, $then]) {
            $written .= ' when '.$this->write($when).' then '.$this->write($then);
        }

        return $written.(null === $case->else ? '' : ' else '.$this->write($case->else)).' end';
    }
}
