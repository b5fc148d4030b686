<?php

declare(strict_types=1);

namespace Fasti\Bench\Mutants;

/** The files of which a share is told, the mistakes that are tried there, and what became of each. */
final class Room
{
    /** @var array<string, string> words → the test that noticed it */
    public array $noticed = [];
    /** @var list<Mutant> */
    public array $unnoticed = [];

    /** @param list<Mutant> $sample */
    public function __construct(public readonly string $name, public readonly array $sample, public readonly int $equal)
    {
    }

    public function tried(): int
    {
        return \count($this->noticed) + \count($this->unnoticed);
    }

    public function share(): float
    {
        return 0 === $this->tried() ? 1.0 : \count($this->noticed) / $this->tried();
    }

    /**
     * Wilson's interval (1927) of nineteen in twenty.
     *
     * @return array{float, float}
     */
    public static function interval(int $hits, int $of): array
    {
        if (0 === $of) {
            return [0.0, 1.0];
        }
        $z = 1.96;
        $p = $hits / $of;
        $middle = ($p + $z ** 2 / (2 * $of)) / (1 + $z ** 2 / $of);
        $half = $z / (1 + $z ** 2 / $of) * sqrt($p * (1 - $p) / $of + $z ** 2 / (4 * $of ** 2));

        return [max(0.0, $middle - $half), min(1.0, $middle + $half)];
    }
}
