<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** The total of a measure in an answer beside the measure taken of its fact alone. */
final readonly class Reconciled
{
    public function __construct(public string $measure, public string $fact, public ?string $here, public ?string $alone, public string $sql)
    {
    }

    /** Equal to twelve digits, which is what approximate numbers keep through any order of adding. */
    public function agrees(): bool
    {
        return self::same($this->here, $this->alone);
    }

    public static function same(?string $a, ?string $b): bool
    {
        if (!is_numeric($a) || !is_numeric($b)) {
            return $a === $b;
        }

        return abs((float) $a - (float) $b) <= 1e-12 * max(abs((float) $a), abs((float) $b), 1e-12);
    }

    /** How many times too great it is, in words; '' where that does not say anything. */
    public function times(): string
    {
        if (!is_numeric($this->here) || !is_numeric($this->alone) || 0.0 === (float) $this->alone || $this->agrees()) {
            return '';
        }
        $times = (float) $this->here / (float) $this->alone;

        return $times > 1.0 ? rtrim(rtrim(number_format($times, 2), '0'), '.').' times as much' : '';
    }
}
