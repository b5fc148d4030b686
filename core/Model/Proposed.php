<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** A model that is proposed over entries, with what speaks for each part of it. */
final readonly class Proposed
{
    /**
     * @param array<string, string> $reasons role → why it is what it is
     * @param list<string>          $shape   what the whole looks like, in short phrases
     * @param list<string>          $left    what was left out, and why
     */
    public function __construct(public Model $model, public array $reasons, public array $shape, public array $left)
    {
    }
}
