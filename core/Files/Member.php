<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

/** One member of the objects at a place: how often it stands there and what it holds. */
final class Member
{
    public int $present = 0;
    public int $strings = 0;
    public int $integers = 0;
    public int $numbers = 0;
    public int $booleans = 0;
    public int $nulls = 0;
    public int $lists = 0;
    /** Objects directly in this member. */
    public ?Node $node = null;
    /** What lists in this member hold. */
    public ?self $items = null;
    /** @var array<array-key, int> distinct plain values among those looked at, up to a limit; null once there are too many */
    public ?array $values = [];
    public int $looked = 0;
    public int $longest = 0;
    /** Some values were passed over where others of the same document were looked at. */
    public bool $unlooked = false;
    /** The format that every text looked at has (`date`, `date-time`, …); '' before the first, null where they differ. */
    public ?string $format = '';
    /** @var array<int, true> a sample of the hashes of its values that is the same for the same values: the least ones (KMV) */
    public array $sketch = [];
    public int $limit = \PHP_INT_MAX;

    public function __construct(public readonly string $path, public readonly bool $sketched)
    {
    }

    /** @return array<string, int> JSON type → how often, the most frequent first */
    public function types(): array
    {
        $types = array_filter([
            'string' => $this->strings, 'integer' => $this->integers, 'number' => $this->numbers, 'boolean' => $this->booleans, 'null' => $this->nulls,
            'array' => $this->lists, 'object' => $this->node->objects ?? 0,
        ]);
        arsort($types);

        return $types;
    }
}
