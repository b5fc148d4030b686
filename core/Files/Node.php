<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

/** The objects found at one place of the documents, while they are being read. */
final class Node
{
    public int $objects = 0;
    /** @var array<array-key, Member> by name; the single member '' of a map */
    public array $members = [];
    public bool $map = false;

    public function __construct(public readonly string $path, public readonly int $depth)
    {
    }
}
