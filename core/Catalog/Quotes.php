<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * A text in quotation marks, those within it doubled: the way of our own notations, and of what readers write down again. SQL that is
 * sent to a source is never made with it: that is what `literal()` and `quoted()` of a dialect are for.
 */
final class Quotes
{
    public static function around(string $text, string $mark = '"'): string
    {
        return $mark.str_replace($mark, $mark.$mark, $text).$mark;
    }
}
