<?php

declare(strict_types=1);

namespace Fasti\Source\Connector\Files;

use Fasti\Core\Files\FilesReader;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\Target;
use Fasti\Source\Connector\Connector;

/** Scripts, sheets, documents and CSV, which are read as they are. */
final class FilesConnector implements Connector
{
    public function engine(): string
    {
        return Target::FILES;
    }

    public function fields(): array
    {
        return ['files', 'path', 'dialect', 'sheets'];
    }

    public function reader(Target $target, int $connect, int $seconds): Reader
    {
        return FilesReader::open($target->path, $target->dialect);
    }

    public function rows(Target $target, int $connect, int $seconds): ?Rows
    {
        return null;
    }
}
