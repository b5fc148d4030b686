<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;

/** A column of an answer: an attribute or a measure. */
final readonly class PlanColumn
{
    /** Up to here a double has every whole number: 2^53. */
    private const WHOLE = 9007199254740992;

    /**
     * @param list<FieldUse> $fields that it is made from
     * @param ?Figure        $figure what it is beside its measure; null for the measure itself
     * @param ?CodeLabels    $labels of the codes that stand in it
     */
    public function __construct(
        public string $name,
        public ?Level $level,
        public ?Measure $measure,
        public TypeFamily $family,
        public string $unit,
        public string $format,
        public array $fields,
        public ?Figure $figure = null,
        public ?CodeLabels $labels = null,
    ) {
    }

    /** A value as it goes into JSON: a number, as long as whoever reads it as a double (IEEE 754) has the same one; else the text of it. */
    public function exact(?string $value): int|float|string|null
    {
        if (null === $value || !$this->family->isNumeric() || !is_numeric($value)) {
            return $value;
        }
        if (1 === preg_match('/^-?\d+$/', $value)) {
            return \strlen(ltrim($value, '-')) <= 16 && abs((int) $value) <= self::WHOLE ? (int) $value : $value;
        }
        $plain = str_contains($value, '.') && 1 !== preg_match('/e/i', $value) ? rtrim(rtrim($value, '0'), '.') : null;
        $there = json_encode((float) $value, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION);

        return null === $plain || $plain === rtrim(rtrim($there, '0'), '.') ? (float) $value : $value;
    }
}
