<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** How an engine is reached from here: connecting, what its errors mean, and what a person has to fill in. Found by tag. */
#[AutoconfigureTag]
interface Connector
{
    /** The name of its dialect. */
    public function engine(): string;

    /** @return list<string> the fields of the form for a source that it asks for; see SourceForm */
    public function fields(): array;

    /** @throws SourceError */
    public function reader(Target $target): Reader;

    /**
     * A read-only session for questions to the data, each of so many seconds at the most; null where there is none.
     *
     * @throws SourceError
     */
    public function rows(Target $target, int $seconds): ?Rows;
}
