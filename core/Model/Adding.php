<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Model\Aggregate\Computed;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;

/** Whether figures of several rows of an answer, added up, are the figure of all of them. */
final readonly class Adding
{
    public function __construct(private Ground $ground)
    {
    }

    /**
     * Why they are not; '' where they are.
     *
     * @param list<string> $over roles over whose attributes it would be added up
     */
    public function why(Measure $measure, array $over): string
    {
        if (!$measure->aggregation->isOfMeasures()) {
            return $this->ofRows($measure, $over);
        }
        if (!$measure->aggregation instanceof Computed) {
            return \sprintf('“%s” is a ratio, and ratios are not added up', $measure->name);
        }
        $tree = $this->ground->formulaOfMeasures($measure->expression)->tree;
        if (null === $tree || !self::isLinear($tree)) {
            return \sprintf('“%s” is no sum and no difference of measures, so that of several rows it is not what their figures add up to', $measure->name);
        }
        foreach ($this->ground->model->partsOf($measure) as $part) {
            $why = $this->why($this->ground->names()->measureNamed($part), $over);
            if ('' !== $why) {
                return $why;
            }
        }

        return '';
    }

    /** @param list<string> $over */
    private function ofRows(Measure $measure, array $over): string
    {
        if (!$measure->aggregation->adds()) {
            $kind = str_replace('the ', '', $measure->aggregation->inWords());

            return \sprintf('“%s” is the %s, and figures of such a kind are not added up', $measure->name, $kind);
        }
        $why = '' === $measure->reason ? '' : ' ('.$measure->reason.')';
        $not = Additivity::NonAdditive === $measure->adds ? $over : array_values(array_intersect($measure->notOver, $over));
        if (Additivity::Additive !== $measure->adds && [] !== $not) {
            return \sprintf('“%s” must not be added up over %s%s', $measure->name, implode(' and ', $not), $why);
        }
        if (Additivity::SemiAdditive === $measure->adds && Instead::Nothing !== $measure->instead && !$measure->instead->isOfAll() && [] !== $over) {
            return \sprintf('“%s” stands at a point of its own in each row%s', $measure->name, $why);
        }

        return '';
    }

    /** Sums and differences of measures, each perhaps times a constant. */
    private static function isLinear(Expression $node): bool
    {
        if ($node instanceof Ref) {
            return true;
        }
        if ($node instanceof Call) {
            [$value, $else] = $node->arguments + [null, null];

            return 'COALESCE' === FormulaReader::function($node->names[0]) && 2 === \count($node->arguments) && null !== $value && self::isLinear($value)
                && $else instanceof Literal && '0' === $else->text;
        }
        if (!$node instanceof Operation) {
            return false;
        }
        $linear = array_filter($node->operands, self::isLinear(...));
        $constant = array_filter($node->operands, self::isConstant(...));
        $n = \count($node->operands);

        return match ($node->sign) {
            '+', '-' => \count($linear) === $n,
            '*' => 1 === \count($linear) && \count($constant) === $n - 1,
            '/' => self::isLinear($node->operands[0]) && \count($constant) === $n - 1,
            default => false,
        };
    }

    private static function isConstant(Expression $node): bool
    {
        return $node instanceof Literal && 'number' === $node->kind
            || $node instanceof Operation && [] === array_filter($node->operands, static fn (Expression $one): bool => !self::isConstant($one));
    }
}
