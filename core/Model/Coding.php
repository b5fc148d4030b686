<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;

/** Conditions on attributes in which codes stand: people write labels, the source is asked for codes. */
final readonly class Coding
{
    public function __construct(private Ground $ground)
    {
    }

    /**
     * @throws ModelError where a value is neither a code nor a label, and the field could not hold it
     */
    public function coded(Condition $condition): Condition
    {
        if ($condition->test->isOfOthers() || $condition->test->isElsewhere()) {
            $of = array_map($this->coded(...), $condition->of);

            return $of === $condition->of ? $condition : new Condition($condition->what, $condition->test, $condition->values, $condition->facts, $of);
        }
        $labels = $this->labels($condition);

        return match (true) {
            null === $labels => $condition,
            \in_array($condition->test, [Test::Is, Test::IsNot], true) => $this->among($condition, $labels),
            \in_array($condition->test, [Test::Begins, Test::Contains], true) => self::holding($condition, $labels),
            default => $condition,
        };
    }

    /** The condition as it is shown: codes with their labels. */
    public function shown(Condition $condition): Condition
    {
        $labels = $condition->test->isOfOthers() || $condition->test->isElsewhere() ? null : $this->labels($condition);
        $named = null !== $labels && \in_array($condition->test, [Test::Is, Test::IsNot], true);

        return new Condition(
            $condition->what, $condition->test, $named ? array_map($labels->shown(...), $condition->values) : $condition->values, $condition->facts,
            array_map($this->shown(...), $condition->of),
        );
    }

    private function labels(Condition $condition): ?CodeLabels
    {
        $names = $this->ground->names();

        return $names->has($condition->what) && null === $names->measure($condition->what)
            ? $this->ground->labels($names->attribute($condition->what)) : null;
    }

    private function among(Condition $condition, CodeLabels $labels): Condition
    {
        $codes = [];
        foreach ($condition->values as $value) {
            $meant = $labels->meant($value);
            if ([] === $meant) {
                $this->mayStand($condition, $value, $labels);
            }
            $codes = [...$codes, ...[] === $meant ? [$value] : $meant];
        }

        return $codes === $condition->values ? $condition
            : new Condition($condition->what, $condition->test, array_values(array_unique($codes)), $condition->facts);
    }

    private function mayStand(Condition $condition, string $value, CodeLabels $labels): void
    {
        $level = $this->ground->names()->attribute($condition->what);
        $family = $this->ground->formula($level->role, $this->ground->model->attribute($level)->expression ?? '')->family;
        if (TypeFamily::Text === $family || is_numeric($value)) {
            return;
        }
        $near = array_map($labels->shown(...), NamedValues::nearest($value, $labels->words()));
        throw new ModelError(\sprintf('“%s” is none of the codes of “%s”, nor what one of them stands for.%s', $value, $condition->what,
            [] === $near ? ' There are: '.implode(', ', array_map($labels->shown(...), \array_slice($labels->words(), 0, 5))).'.'
                : ' The nearest: '.implode(', ', $near).'.'));
    }

    /** Whoever sees labels looks for what stands in labels; what is sought among the values themselves is found as well. */
    private static function holding(Condition $condition, CodeLabels $labels): Condition
    {
        $codes = $labels->holding($condition->values[0] ?? '', Test::Begins === $condition->test);

        return [] === $codes ? $condition : new Condition('', Test::Any, facts: $condition->facts, of: [
            new Condition($condition->what, $condition->test, $condition->values), new Condition($condition->what, Test::Is, $codes),
        ]);
    }
}
