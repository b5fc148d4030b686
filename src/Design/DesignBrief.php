<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Thing;

/** What lists, the search and pages of entries need of a design: kept beside it, so that none of them reads a whole outline. */
final readonly class DesignBrief
{
    /**
     * @param list<array{string, string}> $things name, and what it was taken from, which is '' mostly
     */
    public function __construct(public array $things, public DesignTally $counts)
    {
    }

    public static function of(string $outline): self
    {
        $design = Outline::read($outline)->design;

        return new self(array_map(static fn (Thing $thing): array => [$thing->name, $thing->from], $design->things), Designs::tallyOf($design));
    }

    public function json(): string
    {
        return json_encode(get_object_vars($this), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE);
    }

    /** @param mixed $data as it was kept */
    public static function read(mixed $data): self
    {
        $data = \is_array($data) ? $data : [];
        $counts = \is_array($data['counts'] ?? null) ? $data['counts'] : [];
        $number = static fn (string $of): int => \is_int($counts[$of] ?? null) ? $counts[$of] : 0;
        $things = [];
        foreach (\is_array($data['things'] ?? null) ? $data['things'] : [] as $thing) {
            if (\is_array($thing) && \is_string($thing[0] ?? null) && \is_string($thing[1] ?? null)) {
                $things[] = [$thing[0], $thing[1]];
            }
        }

        return new self($things, new DesignTally($number('things'), $number('attributes'), $number('joins'), $number('asked')));
    }
}
