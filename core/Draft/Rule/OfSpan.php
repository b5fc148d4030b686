<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;
use Fasti\Core\Profile\FieldProfile;

/** Two numbers of one row between which something lies: `cds_start` beside `cds_end`, `depth_from` beside `depth_to`. */
final class OfSpan implements Rule
{
    private const ENDS = ['start' => 'end', 'begin' => 'end', 'from' => 'to', 'lower' => 'upper', 'low' => 'high', 'least' => 'greatest',
        'minimum' => 'maximum'];
    /** Said of the values rather than of a stretch. */
    private const EXTREMES = ['lower', 'low', 'least', 'minimum'];

    public function name(): string
    {
        return 'of-span';
    }

    public function of(Field $field): iterable
    {
        if (!$field->type->family->isNumeric() || null !== $field->lead() || $field->isFlag()) {
            return;
        }
        $words = $field->name->words;
        $from = array_key_first($words);
        foreach (self::ENDS as $first => $last) {
            // “Depth from” and “start position”: the word stands at an end of the name.
            foreach (null === $from ? [] : array_unique([\count($words) - 1, $from]) as $at) {
                $begins = $first === $words[$at];
                $other = $begins || $last === $words[$at] ? self::beside($field, [$at => $begins ? $last : $first] + $words) : null;
                if (null !== $other) {
                    yield from self::drafts($field, $other, $first, $begins);

                    return;
                }
            }
        }
    }

    /** @return iterable<Draft> */
    private static function drafts(Field $field, Column $other, string $first, bool $begins): iterable
    {
        $beside = $field->material->profiles[$field->entry]->fields[$other->name] ?? null;
        $sure = $begins ? self::fit($field->profile, $beside) : self::fit($beside, $field->profile);
        if ($sure > 0.0) {
            $said = self::said($field, $first, $begins, "“{$other->name}”");
            yield new Draft('meaning', English::sentence($said), $sure, ["“{$other->name}” stands beside it"]);
        }
    }

    private static function said(Field $field, string $first, bool $begins, string $other): string
    {
        $what = implode(' ', array_diff($field->name->without($field->noun()), [$first, self::ENDS[$first]]));
        $of = '' === $what ? 'the '.$field->noun() : "the $what of the ".$field->noun();
        if (\in_array($first, self::EXTREMES, true)) {
            return $begins ? "The least that $of may be or is; $other has the greatest" : "The greatest that $of may be or is; $other has the least";
        }

        return $begins ? "Where $of starts, as a number; $other says where it ends" : "Where $of ends, as a number; $other says where it starts";
    }

    /**
     * The number of the same row that is called the same but for its end.
     *
     * @param array<int, string> $wanted its words
     */
    private static function beside(Field $field, array $wanted): ?Column
    {
        ksort($wanted);
        foreach ($field->table->columns as $column) {
            $numeric = $field->material->dialect($field->entry)->typeOf($column)->family->isNumeric();
            if ($numeric && $wanted === $field->material->nameOf($field->entry, $column)->words) {
                return $column;
            }
        }

        return null;
    }

    /** How sure it is with what the data says: what starts after it has ended is no span. */
    private static function fit(?FieldProfile $start, ?FieldProfile $end): float
    {
        if (!is_numeric($start?->least) || !is_numeric($start->greatest) || !is_numeric($end?->least) || !is_numeric($end->greatest)) {
            return 0.76;
        }

        return (float) $start->least <= (float) $end->least && (float) $start->greatest <= (float) $end->greatest ? 0.84 : 0.0;
    }
}
