<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a number that sets a limit. */
final class OfLimit implements Rule
{
    public function name(): string
    {
        return 'of-limit';
    }

    private const SAYS = ['above' => 'The value above which the %s applies', 'below' => 'The value below which the %s applies',
        'over' => 'The value over which the %s applies', 'under' => 'The value under which the %s applies',
        'threshold' => 'The value from which on the %s applies',
        'least' => 'The least value that the %s allows', 'greatest' => 'The greatest value that the %s allows',
        'minimum' => 'The least value that the %s allows',
        'maximum' => 'The greatest value that the %s allows', 'lower limit' => 'The value below which the %s is not to fall',
        'upper limit' => 'The value above which the %s is not to rise'];

    public function of(Field $field): iterable
    {
        $said = self::SAYS[$field->name->phrase()] ?? null;
        if (null !== $said && $field->type->family->isNumeric() && null === $field->lead()) {
            $empty = $field->isSometimesEmpty() ? ' Empty where there is no such limit.' : '';
            yield new Draft('meaning', English::sentence(\sprintf($said, $field->noun())).$empty, 0.76, ['its name sets a limit']);
        }
    }
}
