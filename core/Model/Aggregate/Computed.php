<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Model\FormulaNames;
use Fasti\Core\Model\FormulaSql;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Measure;
use Fasti\Core\Sql\Tree\Ref;

/** An expression over measures, of one fact or of several: a difference, a product, a choice, with constants and rounding. */
final class Computed extends OfMeasures
{
    public function name(): string
    {
        return 'computed';
    }

    public function rank(): int
    {
        return 85;
    }

    public function family(TypeFamily $values): TypeFamily
    {
        return TypeFamily::Other === $values ? TypeFamily::Number : $values;
    }

    public function parts(Measure $measure): array
    {
        return FormulaNames::measures($measure->expression);
    }

    public function computed(Ground $ground, Measure $measure, \Closure $part): string
    {
        $tree = $ground->formulaOfMeasures($measure->expression)->tree ?? throw new \LogicException('The question has seen to it.');

        return (new FormulaSql($ground->sql(), static fn (Ref $ref): string => $part(implode('.', $ref->names))))->of($tree);
    }

    public function made(Measure $measure): string
    {
        return $measure->expression;
    }
}
