<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Survey\SourceError;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A server of Fasti's own on which scripts are tried; one class for each engine, found by tag. */
#[AutoconfigureTag]
interface ScratchServer
{
    public function engine(): string;

    /**
     * Starts it, hands an empty database out, and takes all away afterwards.
     *
     * @template T
     *
     * @param \Closure(Scratch): T $try
     *
     * @return T
     *
     * @throws SourceError where it does not start, or what is tried fails
     */
    public function with(\Closure $try): mixed;
}
