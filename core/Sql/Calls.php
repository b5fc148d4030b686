<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Star;
use Fasti\Core\Sql\Tree\Window;

/** Reads calls of functions, with the words that some of them have between their arguments, and types. */
final class Calls
{
    /** Words that may follow the first one of a type. */
    private const TYPE_GOES_ON = [
        'DOUBLE' => ['PRECISION'],
        'NATIONAL' => ['CHARACTER', 'CHAR', 'VARCHAR', 'VARYING'],
        'CHARACTER' => ['VARYING', 'LARGE', 'OBJECT'],
        'CHAR' => ['VARYING', 'LARGE', 'OBJECT'],
        'BIT' => ['VARYING', 'LARGE', 'OBJECT'],
        'NCHAR' => ['VARYING', 'LARGE', 'OBJECT'],
        'SIGNED' => ['INTEGER', 'INT'],
        'UNSIGNED' => ['INTEGER', 'INT'],
        'LONG' => ['RAW', 'VARCHAR', 'VARBINARY'],
        'BINARY' => ['VARYING', 'LARGE', 'OBJECT'],
    ];
    /** Words that stand between two arguments as a comma does. */
    private const BETWEEN = ['FROM', 'FOR', 'PLACING', 'USING', 'SIMILAR', 'ESCAPE', 'VALUE', 'PASSING', 'SEPARATOR', 'AGAINST', ':'];
    /** First arguments that are a unit or a way, not a field. */
    private const UNIT_FIRST = [
        'EXTRACT',
        'TIMESTAMPADD',
        'TIMESTAMPDIFF',
        'DATEDIFF',
        'DATEADD',
        'DATEPART',
        'DATENAME',
        'DATE_BUCKET',
        'DATETRUNC',
        'GET_FORMAT',
    ];
    private const CLOSING = [
        'ABSENT' => 1,
        'NULL' => 1,
        'ERROR' => 1,
        'WITH' => 1,
        'WITHOUT' => 1,
        'IN' => 1,
        'IGNORE' => 1,
        'RESPECT' => 1,
        'FORMAT' => 1,
        'ON' => 1,
    ];
    private const AFTER = ['AGAINST' => 1, 'WITHIN' => 1, 'KEEP' => 1, 'FILTER' => 1, 'IGNORE' => 1, 'RESPECT' => 1, 'FROM' => 1, 'OVER' => 1];
    private const NAMED = ['XMLELEMENT', 'XMLPI', 'XMLATTRIBUTES', 'XMLFOREST'];

    public function __construct(private readonly Parser $parser, private readonly Tokens $t)
    {
    }

    /** A function without parentheses: `current_date`. */
    public function bare(int $from): Expression
    {
        $word = $this->t->peek();
        $this->t->skip();

        return $this->over($this->t->placed(new Call([strtolower($word)], []), $from), $from);
    }

    /**
     * @param non-empty-list<string> $names
     * @param string                 $first its first name as it is written
     */
    public function call(array $names, string $first, int $from): Expression
    {
        $t = $this->t;
        $word = 1 === \count($names) ? strtoupper($first) : strtoupper($names[\count($names) - 1]);
        if ('CAST' === $word || 'TRY_CAST' === $word || 'SAFE_CAST' === $word || 'TREAT' === $word) {
            return $this->cast($from);
        }
        if ('CONVERT' === $word || 'TRY_CONVERT' === $word) {
            return $this->convert($names, $from);
        }
        $t->expect('(');
        $call = $this->arguments($names, $word);
        $t->expect(')');

        return $this->over($this->t->placed($call, $from), $from);
    }

    private function cast(int $from): Expression
    {
        $t = $this->t;
        $t->expect('(');
        $value = $this->parser->expressions->expression();
        $t->expect('AS');
        $type = $this->type();
        if ($t->take('AT')) {
            $t->rest();
        }
        while (!$t->over() && ')' !== $t->peek()) {
            $t->skip();
        }
        $t->expect(')');

        return $this->t->placed(new Cast($value, $type), $from);
    }

    /**
     * CONVERT(value, type), CONVERT(value USING charset) and CONVERT(type, value, style).
     *
     * @param non-empty-list<string> $names
     */
    private function convert(array $names, int $from): Expression
    {
        $t = $this->t;
        $t->expect('(');
        if (!$t->dialect->queries->charsetTexts && $this->looksLikeType()) {
            $type = $this->type();
            $t->expect(',');
            $value = $this->parser->expressions->expression();
            if ($t->take(',')) {
                $this->parser->expressions->expression();
            }
        } else {
            $value = $this->parser->expressions->expression();
            if ($t->take('USING')) {
                $t->name();
                $type = 'longtext';
            } elseif ($t->take(',')) {
                if (!$t->dialect->queries->charsetTexts) {
                    $arguments = [$value, ...$this->parser->expressions->list()];
                    $t->expect(')');

                    return $this->t->placed(new Call($names, $arguments), $from);
                }
                $type = $this->type();
            } else {
                throw $t->fault('A type was expected');
            }
        }
        $t->expect(')');

        return $this->t->placed(new Cast($value, $type), $from);
    }

    private function looksLikeType(): bool
    {
        return Lexer::WORD === $this->t->kind() && 1 === preg_match(
            '/^(?:N?VARCHAR2?|N?CHAR|INT|INTEGER|BIGINT|SMALLINT|TINYINT|BIT|DATE|TIME|DATETIME2?|DATETIMEOFFSET|SMALLDATETIME'
                .'|DECIMAL|NUMERIC|FLOAT|REAL|MONEY|SMALLMONEY|BINARY|VARBINARY|UNIQUEIDENTIFIER|N?TEXT|XML|SQL_VARIANT)$/',
            $this->t->peek(),
        );
    }

    /** @param non-empty-list<string> $names */
    private function arguments(array $names, string $word): Call
    {
        $t = $this->t;
        $distinct = 'DISTINCT' === $t->any('DISTINCT', 'ALL', 'UNIQUE');
        $order = $arguments = [];
        $star = $within = false;
        $type = null;
        if (\in_array($word, self::UNIT_FIRST, true)
            && !('DATEDIFF' === $word && $t->dialect->queries->charsetTexts)
            && Lexer::WORD === $t->kind()
            && \in_array($t->peek(1), ['FROM', ','], true)) {
            $arguments[] = $this->unit();
            $t->any('FROM', ',');
        } elseif ('TRIM' === $word && '' !== $t->any('LEADING', 'TRAILING', 'BOTH')) {
            $t->take('FROM');
        } elseif (\in_array($word, self::NAMED, true)) {
            return $this->markup($names);
        } elseif (\in_array($word, ['XMLPARSE', 'XMLSERIALIZE', 'XMLROOT'], true)) {
            $t->any('DOCUMENT', 'CONTENT');
        } elseif ('COLLATION' === $word) {
            $t->take('FOR');
        }
        while (!$t->over() && ')' !== $t->peek()) {
            if ('*' === $t->peek() && \in_array($t->peek(1), [')', ','], true)) {
                $t->skip();
                $star = true;
                $arguments[] = new Star();
            } elseif ($t->take('ORDER', 'BY')) {
                $order = $this->parser->expressions->order();
            } elseif ($t->take('VARIADIC')) {
                continue;
            } elseif ('CHAR' === $word && [] !== $arguments && 'USING' === $t->peek(-1)) {
                $t->name();
            } elseif ('LIMIT' === $t->peek() && [] !== $arguments) {
                $t->skip();
                $this->parser->expressions->list();
            } elseif ('AS' === $t->peek() || 'RETURNING' === $t->peek()) {
                $t->skip();
                $type = $this->type();
            } elseif ([] !== $arguments && $this->closes()) {
                continue;
            } else {
                $arguments[] = $this->argument($word);
            }
            if (!$this->next()) {
                break;
            }
        }

        return new Call($names, $arguments, $star, $distinct, $order, null, null, $within, $type);
    }

    /** Whether there is more: a comma, or one of the words that stand in its place. */
    private function next(): bool
    {
        $t = $this->t;
        if (')' === $t->peek()) {
            return false;
        }
        if ($t->take(',')) {
            return true;
        }
        $between = $t->any(...self::BETWEEN);
        if ('PASSING' === $between && $t->take('BY')) {
            $t->any('REF', 'VALUE');
        }
        if ('' !== $between) {
            return true;
        }

        return \in_array(
            $t->peek(),
            ['ORDER', 'LIMIT', 'AS', 'RETURNING', 'ABSENT', 'NULL', 'WITH', 'WITHOUT', 'IGNORE', 'RESPECT', 'IN', 'ON', 'DEFAULT', 'ERROR', 'FORMAT', 'NAME'],
            true,
        );
    }

    /** Words at the end of arguments that change nothing here: NULL ON NULL, WITH UNIQUE KEYS, IN BOOLEAN MODE, IGNORE NULLS. */
    private function closes(): bool
    {
        $t = $this->t;
        if (!isset(self::CLOSING[$t->peek()])) {
            return false;
        }
        foreach ([
            ['ABSENT', 'ON', 'NULL'], ['NULL', 'ON', 'NULL'], ['NULL', 'ON', 'EMPTY'], ['NULL', 'ON', 'ERROR'], ['ERROR', 'ON', 'ERROR'],
            ['ERROR', 'ON', 'EMPTY'],
            ['WITH', 'UNIQUE', 'KEYS'], ['WITH', 'UNIQUE'], ['WITHOUT', 'UNIQUE', 'KEYS'], ['WITHOUT', 'UNIQUE'], ['WITH', 'WRAPPER'], ['WITHOUT', 'WRAPPER'],
            ['IN', 'BOOLEAN', 'MODE'], ['IN', 'NATURAL', 'LANGUAGE', 'MODE'], ['WITH', 'QUERY', 'EXPANSION'],
            ['IGNORE', 'NULLS'], ['RESPECT', 'NULLS'], ['FORMAT', 'JSON'], ['ON', 'OVERFLOW', 'ERROR'], ['ON', 'OVERFLOW', 'TRUNCATE'],
        ] as $words) {
            if ($t->take(...$words)) {
                return true;
            }
        }

        return false;
    }

    /** NEXT VALUE FOR a sequence. */
    public function sequence(int $from): Expression
    {
        $this->t->skip();
        $this->t->take('VALUE', 'FOR');
        $this->t->qualified();

        return $this->t->placed(new Call(['nextval'], []), $from);
    }

    /** `match a, b against (…)`, as MariaDB writes it in its catalog. */
    public function match(int $from): Expression
    {
        $t = $this->t;
        $t->skip();
        $arguments = [];
        do {
            $arguments[] = $this->parser->expressions->expression(Precedence::MATCHED + 1);
        } while ($t->take(','));

        return $this->over($this->t->placed(new Call(['match'], $arguments), $from), $from);
    }

    private function argument(string $word): Expression
    {
        $t = $this->t;
        // KEY and a name before an arrow say which argument it is.
        if (Lexer::WORD === $t->kind() && ('=>' === $t->peek(1) || (':=' === $t->peek(1) && $t->dialect->queries->ownOperators))) {
            $t->skip();
            $t->skip();
        }
        if ('KEY' === $t->peek() && !\in_array($t->peek(1), [',', ')', '.', ':'], true)) {
            $t->skip();
        }
        if ('POSITION' === $word || 'LOCATE' === $word) {
            $value = $this->parser->expressions->expression(Precedence::MATCHED + 1);
            if (!$t->take('IN')) {
                return $value;
            }
            $from = $value->at;

            return $this->t->placed(new Call(['row'], [$value, $this->parser->expressions->expression()]), $from);
        }
        if ('MATCH' === $word || 'AGAINST' === $word) {
            return $this->parser->expressions->expression(Precedence::MATCHED + 1);
        }
        if ($this->parser->beginsQuery() && '(' !== $t->peek()) {
            $from = $t->offset();
            $query = $this->parser->queries->query();

            return $this->t->placed(new Tree\Subquery($query), $from);
        }

        return $this->parser->expressions->expression();
    }

    private function unit(): Expression
    {
        $from = $this->t->offset();
        $unit = $this->t->written();
        $this->t->skip();

        return $this->t->placed(new Literal('text', $unit), $from);
    }

    /**
     * xmlelement(name a, xmlattributes(x AS y), …), xmlforest(a AS b, …)
     *
     * @param non-empty-list<string> $names
     */
    private function markup(array $names): Call
    {
        $t = $this->t;
        $arguments = [];
        if ($t->take('NAME')) {
            $t->name();
            $t->take(',');
        }
        while (!$t->over() && ')' !== $t->peek()) {
            $arguments[] = $this->parser->expressions->expression();
            if ($t->take('AS')) {
                $t->name();
            }
            if (!$t->take(',')) {
                break;
            }
        }

        return new Call($names, $arguments);
    }

    /** What may follow a call: AGAINST, WITHIN GROUP, FILTER, KEEP, OVER, and a null treatment. */
    private function over(Call $call, int $from): Expression
    {
        $t = $this->t;
        if (!isset(self::AFTER[$t->peek()])) {
            return $call;
        }
        $arguments = $call->arguments;
        $order = $call->order;
        $filter = $window = null;
        $within = false;
        if ('AGAINST' === $t->peek() && '(' === $t->peek(1)) {
            $t->skip();
            $t->expect('(');
            $arguments = [...$arguments, ...$this->arguments(['against'], 'AGAINST')->arguments];
            $t->expect(')');
        }
        if ('WITHIN' === $t->peek() && 'GROUP' === $t->peek(1)) {
            $t->take('WITHIN', 'GROUP');
            $t->expect('(');
            $t->expect('ORDER');
            $t->expect('BY');
            $order = $this->parser->expressions->order();
            $within = true;
            $t->expect(')');
        }
        if ('KEEP' === $t->peek() && '(' === $t->peek(1)) {
            $t->skip();
            $t->expect('(');
            $t->expect('DENSE_RANK');
            $t->any('FIRST', 'LAST');
            $t->expect('ORDER');
            $t->expect('BY');
            $order = $this->parser->expressions->order();
            $t->expect(')');
        }
        if ('FILTER' === $t->peek() && '(' === $t->peek(1) && 'WHERE' === $t->peek(2)) {
            $t->skip();
            $t->skip();
            $t->skip();
            $filter = $this->parser->expressions->expression();
            $t->expect(')');
        }
        if (\in_array($t->peek(), ['IGNORE', 'RESPECT'], true) && 'NULLS' === $t->peek(1)) {
            $t->skip();
            $t->skip();
        } elseif ('FROM' === $t->peek() && \in_array($t->peek(1), ['FIRST', 'LAST'], true) && 'OVER' === $t->peek(2)) {
            $t->skip();
            $t->skip();
        }
        if ('OVER' === $t->peek() && ('(' === $t->peek(1) || \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true))) {
            $t->skip();
            $window = $this->window();
        }
        if ($order === $call->order && $arguments === $call->arguments && null === $filter && null === $window) {
            return $call;
        }

        return $this->t->placed(new Call($call->names, $arguments, $call->star, $call->distinct, $order, $filter, $window, $within, $call->type), $from);
    }

    /** A window, by its name or in parentheses. */
    public function window(): Window
    {
        $t = $this->t;
        $from = $t->offset();
        if ('(' !== $t->peek()) {
            return $this->t->placed(new Window($t->name(), [], []), $from);
        }
        $t->expect('(');
        $name = null;
        if ($t->isName() && !\in_array($t->peek(), ['PARTITION', 'ORDER', 'ROWS', 'RANGE', 'GROUPS'], true)) {
            $name = $t->name();
        }
        $partition = $t->take('PARTITION', 'BY') ? $this->parser->expressions->list() : [];
        $order = $t->take('ORDER', 'BY') ? $this->parser->expressions->order() : [];
        $bounds = [];
        if ('' !== $t->any('ROWS', 'RANGE', 'GROUPS')) {
            $between = $t->take('BETWEEN');
            do {
                if (!$t->take('UNBOUNDED') && !$t->take('CURRENT', 'ROW')) {
                    $bounds[] = $this->parser->expressions->expression(Precedence::AND + 1);
                }
                $t->any('PRECEDING', 'FOLLOWING');
            } while ($between && $t->take('AND'));
            if ($t->take('EXCLUDE')) {
                $t->any('CURRENT', 'GROUP', 'TIES', 'NO');
                $t->any('ROW', 'OTHERS');
            }
        }
        $t->expect(')');

        return $this->t->placed(new Window($name, $partition, $order, $bounds), $from);
    }

    /** A type, as the catalog of the engine would write it. */
    public function type(): string
    {
        $t = $this->t;
        $quoted = Lexer::QUOTED === $t->kind();
        if (!$t->isName()) {
            throw $t->fault('A type was expected');
        }
        $setOf = $t->take('SETOF');
        $word = $t->peek();
        $parts = [$t->name()];
        while ('.' === $t->peek()) {
            $t->skip();
            $parts[] = $t->name();
        }
        $base = $quoted || \count($parts) > 1 ? $this->schemaed($parts) : $parts[0];
        while (!$quoted && \in_array($t->peek(), self::TYPE_GOES_ON[$word] ?? [], true)) {
            $base .= ' '.strtolower($t->peek());
            $t->skip();
        }
        if ('INTERVAL' === $word && 1 === preg_match('/^(?:YEAR|MONTH|DAY|HOUR|MINUTE|SECOND)$/', $t->peek())) {
            $t->skip();
            if ($t->take('TO')) {
                $t->skip();
            }
        }
        $options = '(' === $t->peek() ? $t->parenthesis() : '';

        return ($setOf ? 'setof ' : '').$t->dialect->type($base, $options, trim($this->afterType()));
    }

    /** The words behind a type: its zone, its sign, and whether it is a list of them. */
    private function afterType(): string
    {
        $t = $this->t;
        $after = '';
        while (\in_array($t->peek(), ['WITH', 'WITHOUT', 'UNSIGNED', 'SIGNED', 'ZEROFILL', 'CHARSET', 'CHARACTER', 'ARRAY', '[', 'LOCAL'], true)) {
            if ('WITH' === $t->peek() || 'WITHOUT' === $t->peek()) {
                if ('TIME' !== $t->peek(1) && 'LOCAL' !== $t->peek(1)) {
                    break;
                }
                $after .= ' '.strtolower($t->peek());
                $t->skip();
            } elseif ('[' === $t->peek()) {
                $after .= ' []';
                $t->skip();
                if (Lexer::NUMBER === $t->kind()) {
                    $t->skip();
                }
                $t->expect(']');
                continue;
            } elseif ($t->take('ARRAY')) {
                $after .= ' []';
                continue;
            } elseif ($t->take('CHARSET') || $t->take('CHARACTER', 'SET')) {
                $t->name();
                continue;
            } elseif ('CHARACTER' === $t->peek()) {
                break;
            }
            while (1 === preg_match('/^(?:TIME|ZONE|LOCAL|UNSIGNED|SIGNED|ZEROFILL)$/', $t->peek())) {
                $after .= ' '.strtolower($t->peek());
                $t->skip();
            }
        }

        return $after;
    }

    /** @param list<string> $parts */
    private function schemaed(array $parts): string
    {
        if (2 === \count($parts) && 'pg_catalog' === $parts[0]) {
            return $parts[1];
        }
        if (1 === \count($parts) && ('char' === $parts[0] || 'bit' === $parts[0])) {
            return '"'.$parts[0].'"';
        }

        return implode('.', array_map(
            static fn (string $part): string => 1 === preg_match('/^[a-z_][a-z0-9_$]*$/', $part) ? $part : Quotes::around($part),
            $parts,
        ));
    }
}
