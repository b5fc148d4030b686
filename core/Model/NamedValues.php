<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Sql\Tree\Ref;

/** Finds the texts that conditions of a trial name, so that a misspelt one can be told from one of which there are no rows. */
final readonly class NamedValues
{
    /** Of a longer list nobody asks which of them are there. */
    private const MOST_NAMED = 30;
    /** Values that the nearest are looked for among. */
    private const MOST = 2000;
    /** Rows of a table beyond which it is not gone through for that. */
    private const SMALL = 200000;

    public function __construct(private Ground $ground, private AskSql $sql)
    {
    }

    /** @return list<NamedText> */
    public function of(Question $question): array
    {
        $found = [];
        foreach ($question->facts() as $fact) {
            foreach ($question->conditionsOf($fact) as $condition) {
                $found += $this->within($condition, $question);
            }
        }

        return array_values($found);
    }

    /** @return array<string, NamedText> */
    private function within(Condition $condition, Question $question): array
    {
        $named = \in_array($condition->test, [Test::Is, Test::IsNot], true) ? $this->named($condition, $question->level($condition)) : null;
        $found = null === $named ? [] : [$named->there => $named];
        foreach ($condition->of as $part) {
            $found += $this->within($part, $question);
        }

        return $found;
    }

    private function named(Condition $condition, Level $level): ?NamedText
    {
        $attribute = $this->ground->model->attribute($level);
        $formula = null === $attribute ? null : $this->ground->formula($level->role, $attribute->expression);
        $table = $this->ground->table($level->role);
        if (null === $formula?->tree || [] !== $formula->faults || TypeFamily::Text !== $formula->family || null === $table || [] === $condition->values) {
            return null;
        }
        $elsewhere = array_filter($formula->fields, static fn (FieldUse $use): bool => $use->role !== $level->role);
        // Of a view nobody knows how long it takes, nor of a fact that was not counted.
        $unsure = $table->kind->isView() || RoleKind::Fact === $this->ground->role($level->role)->kind;
        if (\count($condition->values) > self::MOST_NAMED || [] !== $elsewhere || ($table->rowEstimate ?? ($unsure ? \PHP_INT_MAX : 0)) > self::SMALL) {
            return null;
        }
        $value = (new FormulaSql($this->sql, fn (Ref $ref): string => 'v.'.$this->sql->name(
            $this->ground->column($level->role, $ref->names[\count($ref->names) - 1])->name ?? '',
        )))->of($formula->tree);
        $from = 'FROM '.$this->sql->table($this->ground->role($level->role)->entry).' AS v WHERE ';
        $there = [];
        foreach ($condition->values as $i => $one) {
            $there[] = "CASE WHEN EXISTS (SELECT 1 $from$value = ".$this->sql->text($one).") THEN 1 ELSE 0 END AS n$i";
        }

        return new NamedText(
            $condition->what, $level->role, $condition->values, $formula->fields, 'SELECT '.implode(",\n       ", $there),
            "SELECT DISTINCT $value AS value $from$value IS NOT NULL ".$this->sql->limited(self::MOST),
            $this->ground->labels($level),
        );
    }

    /**
     * @param list<string> $values that are there
     *
     * @return list<string> those that resemble one, the likest first
     */
    public static function nearest(string $value, array $values): array
    {
        $plain = static fn (string $text): string => mb_strtolower(trim($text));
        $far = [];
        foreach ($values as $one) {
            $apart = levenshtein(substr($plain($one), 0, 80), substr($plain($value), 0, 80));
            $within = mb_strlen($value) > 2 && (str_contains($plain($one), $plain($value)) || str_contains($plain($value), $plain($one)));
            if ('' !== $plain($one) && ($within || $apart < mb_strlen($value) && $apart <= max(1, mb_strlen($value) / 3))) {
                $far[$one] = $apart;
            }
        }
        asort($far);

        return \array_slice(array_map(strval(...), array_keys($far)), 0, 3);
    }
}
