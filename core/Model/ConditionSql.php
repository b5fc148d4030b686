<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;

/** Writes a condition of a trial on a value in the SQL of an engine. */
final readonly class ConditionSql
{
    public function __construct(private AskSql $sql, private \DateTimeImmutable $today)
    {
    }

    /**
     * The condition as one that holds where the value fits, and whether it is that or its opposite that is asked for: none is not "fish", so
     * that a row without a value is one that is not "fish".
     *
     * @return array{string, bool} the SQL, and whether it is the opposite that is asked for
     *
     * @throws ModelError with words for the person
     */
    public function of(string $value, TypeFamily $family, Condition $condition): array
    {
        [$least, $most] = $condition->test->values();
        $n = \count($condition->values);
        if ($n < $least || $n > $most) {
            throw new ModelError(
                \sprintf(
                    '“%s %s” takes %s, and has %d.',
                    $condition->what,
                    $condition->test->value,
                    $least === $most ? "$least value".(1 === $least ? '' : 's') : 'a value or more',
                    $n,
                ),
            );
        }

        return match ($condition->test) {
            Test::None => ["$value IS NOT NULL", true],
            Test::Given => ["$value IS NOT NULL", false],
            Test::Is => [$this->among($value, $family, $condition), false],
            Test::IsNot => [$this->among($value, $family, $condition), true],
            Test::Begins, Test::Contains => [$this->sql->holds(
                TypeFamily::Text === $family ? $value : $this->sql->cast($value, TypeFamily::Text),
                $condition->values[0],
                Test::Begins === $condition->test,
            ), false],
            Test::Between => [$this->compared($value, $family, Test::Least, $condition->values[0], $condition).' AND '
                .$this->compared($value, $family, Test::Most, $condition->values[1], $condition), false],
            Test::During => [$this->during($value, $family, $condition), false],
            default => [$this->compared($value, $family, $condition->test, $condition->values[0], $condition), false],
        };
    }

    /** The condition that is asked for, whole: it holds, or does not, for whatever stands beside it. */
    public function whole(string $value, TypeFamily $family, Condition $condition): string
    {
        [$positive, $opposite] = $this->of($value, $family, $condition);

        return match (true) {
            Test::None === $condition->test => "$value IS NULL",
            $opposite => "(NOT ($positive) OR $value IS NULL)",
            default => "($positive)",
        };
    }

    private function during(string $value, TypeFamily $family, Condition $condition): string
    {
        if (TypeFamily::Time !== $family) {
            throw new ModelError(\sprintf('“%s” is no date or time, so it is not in “%s”. Say “is” instead.', $condition->what, $condition->values[0]));
        }

        return $this->within($value, $this->period($condition->values[0], $condition));
    }

    private function among(string $value, TypeFamily $family, Condition $condition): string
    {
        if (TypeFamily::Time === $family) {
            $parts = array_map(fn (string $one): string => $this->within($value, $this->period($one, $condition)), $condition->values);

            return 1 === \count($parts) ? $parts[0] : '('.implode(') OR (', $parts).')';
        }
        $values = array_map(fn (string $one): string => $this->literal($one, $family, $condition), $condition->values);

        return 1 === \count($values) ? "$value = $values[0]" : "$value IN (".implode(', ', $values).')';
    }

    private function within(string $value, Period $period): string
    {
        return "$value >= ".$this->sql->text($period->begins())." AND $value < ".$this->sql->text($period->ends());
    }

    private function period(string $words, Condition $condition): Period
    {
        return Period::named($words, $this->today)
            ?? throw new ModelError(\sprintf('“%s” is no date that is understood for “%s”. Write %s.', $words, $condition->what, Period::HELP));
    }

    private function compared(string $value, TypeFamily $family, Test $test, string $to, Condition $condition): string
    {
        if (TypeFamily::Time === $family) {
            $period = $this->period($to, $condition);

            return match ($test) {
                Test::Over => "$value >= ".$this->sql->text($period->ends()),
                Test::Least => "$value >= ".$this->sql->text($period->begins()),
                Test::Under => "$value < ".$this->sql->text($period->begins()),
                default => "$value < ".$this->sql->text($period->ends()),
            };
        }
        if (TypeFamily::Flag === $family) {
            throw new ModelError(\sprintf('“%s” is yes or no; there is no %s.', $condition->what, $test->value));
        }

        $sign = match ($test) {
            Test::Over => '>',
            Test::Least => '>=',
            Test::Under => '<',
            default => '<=',
        };

        return "$value $sign ".$this->literal($to, $family, $condition);
    }

    private function literal(string $value, TypeFamily $family, Condition $condition): string
    {
        if ($family->isNumeric()) {
            $plain = str_replace(["\u{2212}", ' ', "\u{202f}"], ['-', '', ''], trim($value));
            if (1 !== preg_match('/^-?\d{1,30}(?:\.\d{1,30})?$/', $plain)) {
                throw new ModelError(\sprintf('“%s” holds numbers, and “%s” is none. Write it as 12 or 12.5.', $condition->what, $value));
            }

            return $plain;
        }
        if (TypeFamily::Flag === $family) {
            $known = ['yes' => true, 'true' => true, '1' => true, 'no' => false, 'false' => false, '0' => false];

            return $this->sql->truth(
                $known[mb_strtolower(trim($value))] ?? throw new ModelError(\sprintf('“%s” is yes or no, and not “%s”.', $condition->what, $value)),
            );
        }

        return $this->sql->text($value);
    }
}
