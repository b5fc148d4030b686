<?php

declare(strict_types=1);

namespace Fasti\Draft;

/** Another field of which the same may be said. */
final readonly class OtherPlace
{
    /** From here it is as likely as what is taken by itself. */
    private const SURE = 0.7;

    /**
     * @param string       $name    the entry and the field, with the schema where that is another
     * @param float        $sure    0 to 1
     * @param list<string> $differs what speaks against it, each after "there"
     */
    public function __construct(public int $field, public string $name, public float $sure, public array $differs)
    {
    }

    /** Whether it is true there as it stands. */
    public function isTicked(): bool
    {
        return $this->sure >= self::SURE && [] === $this->differs;
    }
}
