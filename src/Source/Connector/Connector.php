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

    /**
     * @param int $connect seconds until the source has let us in and answered once
     * @param int $seconds that each question may take
     *
     * @throws SourceError
     */
    public function reader(Target $target, int $connect, int $seconds): Reader;

    /**
     * A read-only session for questions to the data; null where there is none.
     *
     * @throws SourceError
     */
    public function rows(Target $target, int $connect, int $seconds): ?Rows;
}
