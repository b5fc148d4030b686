<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A value that a condition names and that no row has. */
final readonly class UnknownValue
{
    /** @param list<string> $nearest values that are there and resemble it */
    public function __construct(public NamedText $named, public string $value, public array $nearest)
    {
    }

    /** @param bool $hidden the values that are there are not to be seen */
    public function inWords(bool $hidden = false): string
    {
        $shown = fn (string $one): string => $this->named->labels?->shown($one) ?? $one;
        $near = $hidden || [] === $this->nearest ? ''
            : ' The nearest: '.implode(', ', array_map(static fn (string $one): string => '“'.$shown($one).'”', $this->nearest)).'.';

        return \sprintf('No row of %s has “%s” as its %s.%s', $this->named->role, $shown($this->value), $this->named->what, $near);
    }
}
