<?php

declare(strict_types=1);

namespace Fasti\CodeList;

/** What stands in fields, as somebody who has looked at the data knows it. */
interface FieldValues
{
    /**
     * @param list<int> $fields
     *
     * @return array<int, Values> by field; those that nobody has looked at are left out
     */
    public function of(array $fields): array;
}
