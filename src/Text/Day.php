<?php

declare(strict_types=1);

namespace Fasti\Text;

final class Day
{
    /** @throws BadText where it is no day of the calendar, and not empty either */
    public static function check(string $value): void
    {
        $read = 1 === preg_match('/^(\d{4})-(\d\d)-(\d\d)$/D', $value, $m) && checkdate((int) $m[2], (int) $m[3], (int) $m[1]);
        if ('' !== $value && !$read) {
            throw new BadText(\sprintf('“%s” is no day. Write it as 2026-11-30.', mb_strimwidth($value, 0, 30, '…')));
        }
    }
}
