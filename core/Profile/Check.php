<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

use Fasti\Core\Value\Allowed;

/** What came of looking for values of a field that are not allowed. */
final class Check
{
    public ?int $broken = null;
    /** @var array<array-key, int> value → rows, 0 where they were not counted */
    public array $breaking = [];
    private const MOST = 1000;

    public function __construct(public readonly Allowed $allowed, public readonly string $text)
    {
    }

    /** Looks at a value that stands in so many rows. */
    public function look(string $value, int $rows = 1): void
    {
        $this->broken ??= 0;
        if (!$this->allowed->fits($value)) {
            $this->broken += $rows;
            if (isset($this->breaking[$value]) || \count($this->breaking) < self::MOST) {
                $this->breaking[$value] = ($this->breaking[$value] ?? 0) + $rows;
            }
        }
    }

    /** The values found, the most frequent first. */
    public function sorted(): self
    {
        arsort($this->breaking);

        return $this;
    }
}
