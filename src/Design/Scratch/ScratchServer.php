<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Survey\SourceError;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A server of Fasti's own on which scripts are tried, in a cage; one class for each engine, found by tag. */
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
     * @param list<string>         $schemas further ones that what is tried may make, and own
     *
     * @return T
     *
     * @throws SourceError where it does not start, or what is tried fails
     */
    public function with(\Closure $try, array $schemas = []): mixed;
}
