<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A trial that a model cannot answer without a danger of being wrong: why, and what could be asked instead. */
final class Unanswerable extends \RuntimeException
{
    /**
     * @param non-empty-list<string> $reasons
     * @param list<Offer>            $offers
     */
    public function __construct(public readonly array $reasons, public readonly array $offers = [])
    {
        parent::__construct(implode("\n", $reasons));
    }
}
