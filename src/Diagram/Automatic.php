<?php

declare(strict_types=1);

namespace Fasti\Diagram;

/** A diagram that draws itself: of what, under which name, and where. */
final readonly class Automatic
{
    /** More entries than this open as a map. */
    public const MAP_FROM = 300;

    /** @param array<string, int|string|null> $address parameters of the route */
    public function __construct(
        public Scope $scope,
        public string $name,
        public string $purpose,
        public string $source,
        public string $route,
        public array $address,
    ) {
    }

    public function isMap(int $entries): bool
    {
        return null !== $this->scope->source && $entries > self::MAP_FROM;
    }
}
