<?php

declare(strict_types=1);

namespace Fasti\Register;

/** A part of a dossier that knows of fields whose values are not to be shown. */
interface Withholding
{
    /** @return list<string> names of fields */
    public function withheld(): array;
}
