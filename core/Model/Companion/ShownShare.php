<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Companion;

use Fasti\Core\Model\Figure;

/** Of the rows that are shown: what conditions on figures and the number of rows leave out does not count. */
final class ShownShare extends Share
{
    public function name(): string
    {
        return 'shown share';
    }

    public function rank(): int
    {
        return 20;
    }

    public function help(): string
    {
        return 'of the rows that are shown';
    }

    public function inWords(Figure $figure): string
    {
        return 'shown '.parent::inWords($figure);
    }

    public function pattern(): string
    {
        return str_replace('/^', '/^shown ', parent::pattern());
    }

    public function isOfShown(): bool
    {
        return true;
    }
}
