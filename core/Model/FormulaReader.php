<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Node;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;

/**
 * Reads an expression of a model: SQL's own words over the fields of a role, and over those of roles that it leads to, written
 * `role.field`. Works out the type and the unit of every part. What it understands is what FormulaSql can render in every dialect.
 */
final class FormulaReader
{
    public const FUNCTIONS = [
        'ABS' => [1, 1, 'a number'], 'ROUND' => [1, 2, 'a number, and how many decimals'], 'FLOOR' => [1, 1, 'a number'], 'CEILING' => [1, 1, 'a number'],
        'MOD' => [2, 2, 'two numbers'], 'POWER' => [2, 2, 'two numbers'], 'SQRT' => [1, 1, 'a number'],
        'COALESCE' => [2, 20, 'two values or more'], 'NULLIF' => [2, 2, 'two values'], 'GREATEST' => [2, 20, 'two values or more'],
        'LEAST' => [2, 20, 'two values or more'],
        'UPPER' => [1, 1, 'a text'], 'LOWER' => [1, 1, 'a text'], 'TRIM' => [1, 1, 'a text'], 'CHAR_LENGTH' => [1, 1, 'a text'],
        'SUBSTRING' => [2, 3, 'a text, where it begins, and for how many characters'], 'REPLACE' => [3, 3, 'a text, what is replaced, and by what'],
        'EXTRACT' => [2, 2, 'YEAR, QUARTER, MONTH, WEEK, ISOYEAR, ISODOW, DAY, HOUR, MINUTE or SECOND FROM a date'],
        'DAYS_BETWEEN' => [2, 2, 'two dates: the days from the first to the second'],
        'FISCAL_YEAR' => [2, 2, 'a date, and the month in which the year begins, 1 to 12; it is named by the year in which it ends'],
        'FISCAL_QUARTER' => [2, 2, 'a date, and the month in which the year begins, 1 to 12'],
        'FISCAL_MONTH' => [2, 2, 'a date, and the month in which the year begins, 1 to 12'],
    ];
    private const ALIASES = ['CEIL' => 'CEILING', 'LENGTH' => 'CHAR_LENGTH', 'CHARACTER_LENGTH' => 'CHAR_LENGTH', 'SUBSTR' => 'SUBSTRING'];
    private const AGGREGATES = ['SUM', 'COUNT', 'AVG', 'MIN', 'MAX', 'MEDIAN', 'STDDEV', 'VARIANCE'];
    public const PARTS = ['YEAR', 'QUARTER', 'MONTH', 'WEEK', 'ISOYEAR', 'ISODOW', 'DAY', 'HOUR', 'MINUTE', 'SECOND'];
    private const COMPARED = ['=', '<>', '!=', '<', '>', '<=', '>='];

    private static ?Grammar $grammar = null;
    /** @var list<FieldUse> */
    private array $fields = [];
    /** @var list<FormulaFault> */
    private array $faults = [];
    /** @var list<FormulaFault> */
    private array $doubts = [];
    private string $text = '';
    private string $written = '';

    /** @param ?string $role whose fields are meant; null where its names are those of measures */
    public function __construct(private readonly Ground $ground, private readonly ?string $role)
    {
    }

    public static function function(string $name): string
    {
        $name = mb_strtoupper($name);

        return self::ALIASES[$name] ?? $name;
    }

    public function read(string $text): Formula
    {
        $this->text = $text;
        $this->fields = [];
        $this->faults = [];
        $this->doubts = [];
        $this->written = '';
        $tree = null;
        if ('' === trim($text)) {
            $this->faults[] = new FormulaFault('The expression is empty', 0, 'Expected: a field, or an expression over fields.');
        } elseif (mb_strlen($text) > ModelLimits::TEXT) {
            $this->faults[] = new FormulaFault(
                \sprintf('The expression has %s characters, and is not read', number_format(mb_strlen($text))),
                0,
                \sprintf('Expected: %s at the most.', number_format(ModelLimits::TEXT)),
            );
        } else {
            try {
                $t = new Tokens($text, self::grammar());
                $tree = (new Parser($t))->expressions->expression();
                if (!$t->over()) {
                    $this->faults[] = new FormulaFault(
                        'The expression was over, but something follows',
                        $this->chars($t->offset()),
                        'Expected: its end, or an operator such as +.',
                    );
                    $tree = null;
                }
            } catch (SqlFault $e) {
                $this->faults[] = new FormulaFault(
                    $e->getMessage(),
                    $this->chars($e->offset),
                    null === $this->role
                        ? 'Expected: a measure (in double quotes where its name has blanks), a number, a text in single quotes, or a function.'
                        : 'Expected: a field, a number, a text in single quotes, or a function.',
                );
            }
        }
        [$family, $unit] = null === $tree ? [TypeFamily::Other, ''] : $this->of($tree);

        return new Formula($text, [] === $this->faults ? $tree : null, $family, $unit, $this->fields, $this->faults, $this->doubts, $this->written);
    }

    public static function grammar(): Grammar
    {
        if (null === self::$grammar) {
            self::$grammar = new Grammar();
            self::$grammar->signs->brackets = false;
            self::$grammar->signs->batches = false;
            self::$grammar->queries->hashedNames = false;
        }

        return self::$grammar;
    }

    private function chars(int $bytes): int
    {
        return mb_strlen(substr($this->text, 0, $bytes));
    }

    /** @return array{TypeFamily, string} */
    private function fault(Node $at, string $message, string $expected = ''): array
    {
        $this->faults[] = new FormulaFault($message, $this->chars($at->at), $expected);

        return [TypeFamily::Other, ''];
    }

    /** @return array{TypeFamily, string} the family of its values, and their unit */
    private function of(Expression $node): array
    {
        return match (true) {
            $node instanceof Ref => $this->ref($node),
            $node instanceof Literal => $this->literal($node),
            $node instanceof Operation => $this->operation($node),
            $node instanceof Call => $this->call($node),
            $node instanceof CaseOf => $this->choice($node),
            $node instanceof Cast => $this->cast($node),
            default => $this->fault(
                $node,
                'This kind of expression is not understood here',
                'Expected: fields, numbers, texts, operators, CASE, CAST, and functions of one row.',
            ),
        };
    }

    /** @return array{TypeFamily, string} */
    private function ref(Ref $ref): array
    {
        if (null === $this->role) {
            return $this->measure($ref);
        }
        $names = $ref->names;
        $column = array_pop($names);
        $role = [] === $names ? $this->role : implode('.', $names);
        $found = $this->ground->roleNamed($role);
        if (null === $found) {
            return $this->fault($ref, \sprintf('The model has no role “%s”', $role), $this->near($role, $this->ground->roleNames()));
        }
        $table = $this->ground->table($found);
        if (null === $table) {
            return $this->fault($ref, \sprintf('The entry of “%s” is not there any more', $found));
        }
        $here = $this->ground->column($found, $column);
        if (null === $here) {
            return $this->fault(
                $ref,
                \sprintf('%s has no field “%s”', $table->name, $column),
                $this->near($column, array_map(static fn ($one): string => $one->name, $table->columns)),
            );
        }
        $this->fields[] = new FieldUse($found, $here->name, $ref->at, $ref->end);
        $closed = $this->ground->closed($found, $here->name);
        if ('' !== $closed) {
            return $this->fault($ref, \sprintf('“%s” is closed (%s)', $here->name, $closed), 'Secrets are asked about by nobody; take another field.');
        }
        $this->written = $here->base ?? $here->type;
        $type = $this->ground->typeOf($here);

        return [$type->array ? TypeFamily::Other : $type->family, $this->ground->unit($found, $here->name)];
    }

    /** @return array{TypeFamily, string} */
    private function measure(Ref $ref): array
    {
        $name = implode('.', $ref->names);
        $measure = $this->ground->names()->measure($name);
        if (null === $measure) {
            return $this->fault(
                $ref,
                \sprintf('The model has no measure “%s”', $name),
                $this->near($name, array_map(static fn (Measure $one): string => $one->name, $this->ground->model->measures)),
            );
        }
        $this->fields[] = new FieldUse('', $measure->name, $ref->at, $ref->end);

        return [$this->ground->familyOf($measure), $this->ground->unitOf($measure)];
    }

    /** @param list<string> $names */
    private function near(string $name, array $names): string
    {
        $close = array_filter(
            $names,
            static fn (string $one): bool => levenshtein(mb_strtolower(substr($one, 0, 60)), mb_strtolower(substr($name, 0, 60))) <= max(2, \strlen($name) / 4),
        );

        return match (true) {
            [] !== $close => 'Do you mean '.implode(' or ', \array_slice(array_values($close), 0, 3)).'?',
            [] === $names => '',
            default => 'It has: '.implode(', ', \array_slice($names, 0, 8)).(\count($names) > 8 ? ' …' : '').'.',
        };
    }

    /** @return array{TypeFamily, string} */
    private function literal(Literal $literal): array
    {
        return match ($literal->kind) {
            'number' => [1 === preg_match('/^\d+$/', $literal->text) ? TypeFamily::Whole : TypeFamily::Number, ''],
            'text', 'national' => [TypeFamily::Text, ''],
            'bool' => [TypeFamily::Flag, ''],
            'null' => [TypeFamily::Other, ''],
            'typed' => $this->moment($literal),
            default => $this->fault($literal, 'This kind of value is not understood here', 'Expected: a number, a text in single quotes, TRUE, FALSE or NULL.'),
        };
    }

    /** @return array{TypeFamily, string} */
    private function moment(Literal $literal): array
    {
        $expected = "Expected: DATE '2026-01-31' or TIMESTAMP '2026-01-31 12:00:00'.";
        $date = 'date' === strtolower((string) $literal->type);
        if (!$date && !\in_array(strtolower((string) $literal->type), ['timestamp', 'datetime'], true)) {
            return $this->fault($literal, \sprintf('A %s is not understood here', (string) $literal->type), $expected);
        }
        $fits = 1 === preg_match($date ? '/^\d{4}-\d{2}-\d{2}$/' : '/^\d{4}-\d{2}-\d{2} \d{2}:\d{2}(?::\d{2}(?:\.\d{1,6})?)?$/', $literal->text)
            && null !== Period::named(substr($literal->text, 0, 10), new \DateTimeImmutable());

        return $fits ? [TypeFamily::Time, ''] : $this->fault($literal, \sprintf('“%s” is no %s', $literal->text, $date ? 'date' : 'date and time'), $expected);
    }

    /** @return array{TypeFamily, string} */
    private function operation(Operation $node): array
    {
        $sign = $node->sign;
        if (\in_array($sign, ['AND', 'OR', 'NOT'], true)) {
            foreach ($node->operands as $operand) {
                [$family] = $this->of($operand);
                if (!\in_array($family, [TypeFamily::Flag, TypeFamily::Other], true)) {
                    $this->fault(
                        $operand,
                        "$sign joins conditions, and this is none",
                        'Expected: a comparison such as kind = \'fish\'.',
                    );
                }
            }

            return [TypeFamily::Flag, ''];
        }
        if (\in_array($sign, ['IS NULL', 'IS NOT NULL', 'IS TRUE', 'IS NOT TRUE', 'IS FALSE', 'IS NOT FALSE'], true)) {
            $this->of($node->operands[0]);

            return [TypeFamily::Flag, ''];
        }
        if (\in_array($sign, self::COMPARED, true) || \in_array($sign, ['IN', 'NOT IN', 'BETWEEN', 'NOT BETWEEN', 'LIKE', 'NOT LIKE'], true)) {
            return $this->compared($node);
        }
        if ('||' === $sign) {
            foreach ($node->operands as $operand) {
                [$family] = $this->of($operand);
                if (!\in_array($family, [TypeFamily::Text, TypeFamily::Other], true)) {
                    $this->fault(
                        $operand,
                        '|| puts texts together, and this is a '.self::word($family),
                        'Expected: a text; CAST(… AS varchar) makes one.',
                    );
                }
            }

            return [TypeFamily::Text, ''];
        }
        if (\in_array($sign, ['+', '-', '*', '/', '%'], true)) {
            return $this->arithmetic($node);
        }

        return $this->fault(
            $node,
            \sprintf('The operator %s is not understood here', $sign),
            'Expected: + - * / || = <> < > <= >= AND OR NOT IN BETWEEN LIKE IS NULL.',
        );
    }

    /** @return array{TypeFamily, string} */
    private function compared(Operation $node): array
    {
        $first = null;
        foreach ($node->operands as $i => $operand) {
            foreach ($operand instanceof RowOf ? $operand->items : [$operand] as $one) {
                [$family, $unit] = $this->of($one);
                if (null === $first) {
                    $first = [$family, $unit];
                } elseif (!self::alike($first[0], $family)) {
                    $this->fault(
                        $one,
                        \sprintf('A %s is compared with a %s', self::word($first[0]), self::word($family)),
                        'Expected: a '.self::word($first[0]).'.',
                    );
                } elseif ('' !== $unit && '' !== $first[1] && $unit !== $first[1]) {
                    $this->doubts[] = new FormulaFault(\sprintf('%s are compared with %s', $first[1], $unit), $this->chars($one->at));
                }
            }
        }
        if (str_ends_with($node->sign, 'LIKE') && null !== $first && !\in_array($first[0], [TypeFamily::Text, TypeFamily::Other], true)) {
            $this->fault($node->operands[0], 'LIKE looks at texts, and this is a '.self::word($first[0]), 'Expected: a text.');
        }

        return [TypeFamily::Flag, ''];
    }

    public static function alike(TypeFamily $a, TypeFamily $b): bool
    {
        // A text may stand for a date; nothing is known of what has no type.
        return $a === $b || TypeFamily::Other === $a || TypeFamily::Other === $b || ($a->isNumeric() && $b->isNumeric())
            || [] === array_diff([$a->value, $b->value], [TypeFamily::Time->value, TypeFamily::Text->value]);
    }

    public static function word(TypeFamily $family): string
    {
        return match ($family) {
            TypeFamily::Whole, TypeFamily::Number => 'number',
            TypeFamily::Time => 'date or time',
            TypeFamily::Flag => 'yes or no',
            TypeFamily::Bytes => 'value of bytes',
            TypeFamily::Document => 'document',
            TypeFamily::Spatial => 'place',
            TypeFamily::Text => 'text',
            TypeFamily::Other => 'value of another kind',
        };
    }

    /** @return array{TypeFamily, string} */
    private function arithmetic(Operation $node): array
    {
        $whole = true;
        $units = [];
        foreach ($node->operands as $operand) {
            [$family, $unit] = $this->of($operand);
            if (!$family->isNumeric() && TypeFamily::Other !== $family) {
                return $this->fault($operand, \sprintf('%s computes with numbers, and this is a %s', $node->sign, self::word($family)), 'Expected: a number.');
            }
            $whole = $whole && TypeFamily::Number !== $family;
            $units[] = [$unit, $operand];
        }

        return ['/' === $node->sign || !$whole ? TypeFamily::Number : TypeFamily::Whole, $this->unitOf($node->sign, $units)];
    }

    /** @param list<array{string, Expression}> $units */
    private function unitOf(string $sign, array $units): string
    {
        $unit = $units[0][0];
        foreach (\array_slice($units, 1) as [$other, $operand]) {
            if ('+' === $sign || '-' === $sign || '%' === $sign) {
                if ('' !== $unit && '' !== $other && $unit !== $other) {
                    $this->doubts[] = new FormulaFault(
                        \sprintf('%s and %s are put together', $unit, $other),
                        $this->chars($operand->at),
                        'Bring both to one unit first.',
                    );
                }
                $unit = '' === $unit ? $other : $unit;
            } elseif ('*' === $sign) {
                $unit = match (true) {
                    '' === $other => $unit,
                    '' === $unit => $other,
                    default => $unit.'·'.$other,
                };
            } elseif ('' !== $other) {
                $unit = $unit === $other ? '' : ('' === $unit ? '1' : $unit)."/$other";
            }
        }

        return $unit;
    }

    /** @return array{TypeFamily, string} */
    private function call(Call $call): array
    {
        $name = self::function($call->names[\count($call->names) - 1]);
        if (\in_array($name, self::AGGREGATES, true) || null !== $call->over) {
            return $this->fault(
                $call,
                \sprintf('%s is taken over many rows', $name),
                'An expression is about one row; say over many rows by the aggregation of the measure.',
            );
        }
        $known = self::FUNCTIONS[$name] ?? null;
        if (null === $known || \count($call->names) > 1) {
            return $this->fault(
                $call,
                \sprintf('The function %s is not understood here', $name),
                'Expected one of: '.implode(', ', array_keys(self::FUNCTIONS)).'.',
            );
        }
        if (\count($call->arguments) < $known[0] || \count($call->arguments) > $known[1] || $call->star || $call->distinct) {
            return $this->fault($call, \sprintf('%s has %d arguments', $name, \count($call->arguments)), "Expected: $known[2].");
        }
        if ('EXTRACT' === $name) {
            return $this->extracted($call);
        }
        if ('DAYS_BETWEEN' === $name || str_starts_with($name, 'FISCAL_')) {
            return $this->ofDates($name, $call);
        }
        $types = array_map(fn (Expression $argument): array => $this->of($argument), $call->arguments);
        $numbers = \in_array($name, ['ABS', 'ROUND', 'FLOOR', 'CEILING', 'MOD', 'POWER', 'SQRT'], true);
        $texts = \in_array($name, ['UPPER', 'LOWER', 'TRIM', 'CHAR_LENGTH', 'REPLACE'], true);
        foreach ($types as $i => [$family]) {
            $wanted = match (true) {
                $numbers || ('SUBSTRING' === $name && $i > 0) => 'number',
                $texts || 'SUBSTRING' === $name => 'text',
                default => '',
            };
            $fits = TypeFamily::Other === $family || ('number' === $wanted ? $family->isNumeric() : ('text' !== $wanted || TypeFamily::Text === $family));
            if (!$fits) {
                $this->fault(
                    $call->arguments[$i],
                    \sprintf('%s takes a %s here, and this is a %s', $name, $wanted, self::word($family)),
                    "Expected: $known[2].",
                );
            }
        }

        return match ($name) {
            'ROUND', 'ABS' => $types[0],
            'FLOOR', 'CEILING' => [TypeFamily::Whole, $types[0][1]],
            'MOD' => [TypeFamily::Whole === $types[0][0] && TypeFamily::Whole === $types[1][0] ? TypeFamily::Whole : TypeFamily::Number, $types[0][1]],
            'POWER', 'SQRT' => [TypeFamily::Number, ''],
            'CHAR_LENGTH' => [TypeFamily::Whole, ''],
            'UPPER', 'LOWER', 'TRIM', 'SUBSTRING', 'REPLACE' => [TypeFamily::Text, ''],
            'NULLIF' => $types[0],
            default => $this->common($call->arguments, $types),
        };
    }

    /** @return array{TypeFamily, string} */
    private function extracted(Call $call): array
    {
        [$part, $of] = $call->arguments;
        $word = match (true) {
            $part instanceof Literal => strtoupper($part->text),
            $part instanceof Ref => strtoupper($part->names[0]),
            default => '',
        };
        if (!\in_array($word, self::PARTS, true)) {
            return $this->fault($part, 'This part of a date is not understood', 'Expected: '.implode(', ', self::PARTS).'.');
        }
        [$family] = $this->of($of);
        if (!\in_array($family, [TypeFamily::Time, TypeFamily::Other], true)) {
            return $this->fault(
                $of,
                'EXTRACT takes something of a date, and this is a '.self::word($family),
                'Expected: a date or time; CAST(… AS date) makes one of a text.',
            );
        }

        return [TypeFamily::Whole, ''];
    }

    /** @return array{TypeFamily, string} */
    private function ofDates(string $name, Call $call): array
    {
        foreach ('DAYS_BETWEEN' === $name ? $call->arguments : [$call->arguments[0]] as $date) {
            [$family] = $this->of($date);
            if (!\in_array($family, [TypeFamily::Time, TypeFamily::Other], true)) {
                $this->fault(
                    $date,
                    \sprintf('%s takes a date here, and this is a %s', $name, self::word($family)),
                    'Expected: '.self::FUNCTIONS[$name][2].'.',
                );
            }
        }
        $first = $call->arguments[1];
        if ('DAYS_BETWEEN' === $name) {
            return [TypeFamily::Whole, 'days'];
        }
        if (!$first instanceof Literal || 1 !== preg_match('/^(?:[1-9]|1[0-2])$/', $first->text)) {
            return $this->fault($first, 'A fiscal year begins with a month', 'Expected: a number from 1 to 12, such as FISCAL_YEAR(ordered_on, 4).');
        }

        return [TypeFamily::Whole, ''];
    }

    /**
     * @param list<Expression>                $nodes
     * @param list<array{TypeFamily, string}> $types
     *
     * @return array{TypeFamily, string}
     */
    private function common(array $nodes, array $types): array
    {
        $family = TypeFamily::Other;
        $unit = '';
        foreach ($types as $i => [$one, $of]) {
            if (!self::alike($family, $one)) {
                return $this->fault(
                    $nodes[$i],
                    \sprintf('A %s and a %s cannot stand for one another', self::word($family), self::word($one)),
                    'Expected: a '.self::word($family).'.',
                );
            }
            if ('' !== $of && '' !== $unit && $of !== $unit) {
                $this->doubts[] = new FormulaFault(\sprintf('%s and %s stand for one another', $unit, $of), $this->chars($nodes[$i]->at));
            }
            $unit = '' === $unit ? $of : $unit;
            $family = match (true) {
                TypeFamily::Other === $family => $one,
                TypeFamily::Whole === $family && TypeFamily::Number === $one => $one,
                default => $family,
            };
        }

        return [$family, $unit];
    }

    /** @return array{TypeFamily, string} */
    private function choice(CaseOf $node): array
    {
        $subject = null === $node->subject ? null : $this->of($node->subject);
        $values = $types = [];
        foreach ($node->whens as [$when, $then]) {
            [$family] = $this->of($when);
            if (null === $subject ? !\in_array($family, [TypeFamily::Flag, TypeFamily::Other], true) : !self::alike($subject[0], $family)) {
                $this->fault(
                    $when,
                    null === $subject ? 'WHEN takes a condition' : \sprintf('A %s is compared with a %s', self::word($subject[0]), self::word($family)),
                );
            }
            $values[] = $then;
            $types[] = $this->of($then);
        }
        if (null !== $node->else) {
            $values[] = $node->else;
            $types[] = $this->of($node->else);
        }

        return $this->common($values, $types);
    }

    /** @return array{TypeFamily, string} */
    private function cast(Cast $cast): array
    {
        $from = $this->of($cast->value);
        $family = self::castTo($cast->type);

        return null === $family ? $this->fault(
            $cast,
            \sprintf('A cast to %s is not understood here', $cast->type),
            'Expected: integer, decimal(10,2), double precision, varchar, varchar(20), date or boolean.',
        )
            : [$family, $family->isNumeric() ? $from[1] : ''];
    }

    public static function castTo(string $type): ?TypeFamily
    {
        return match (TypeText::of($type)->name) {
            'int', 'integer', 'bigint', 'smallint' => TypeFamily::Whole,
            'decimal', 'numeric', 'double', 'double precision', 'real', 'float' => TypeFamily::Number,
            'varchar', 'character varying', 'text', 'char', 'character' => TypeFamily::Text,
            'date' => TypeFamily::Time,
            'boolean', 'bool' => TypeFamily::Flag,
            default => null,
        };
    }
}
