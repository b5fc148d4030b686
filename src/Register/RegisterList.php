<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** One of the lists of the register: entries, findings, … They stand in the line under its title. Found by tag. */
#[AutoconfigureTag]
interface RegisterList
{
    public function name(): string;

    public function route(): string;

    public function count(): int;

    /** Its place in the line; the lower ones first. */
    public function place(): int;
}
