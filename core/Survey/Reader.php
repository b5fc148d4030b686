<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

use Fasti\Core\Catalog\Catalog;

/** Reads the structure of one kind of source. Every kind gives the same Catalog. */
interface Reader
{
    /** @throws SourceError */
    public function inventory(): Inventory;

    /**
     * @throws SourceError
     * @throws Stopped
     */
    public function read(Choice $choice, Progress $progress): Catalog;
}
