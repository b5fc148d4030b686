<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

final class FieldTerms extends TermsProperty
{
    public function topic(): string
    {
        return 'field';
    }
}
