<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Profile\Closeness;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Lineage\SameData;
use Fasti\Register\Fields;

/** Two fields hold the same data when their profiles are close. */
final readonly class SameProfile implements SameData
{
    private const CLOSE = 0.6;

    public function __construct(private Profiles $profiles, private Fields $fields)
    {
    }

    public function agree(int $field, int $other): bool
    {
        $a = $this->of($field);
        $b = $this->of($other);

        return null !== $a && null !== $b && $a->filled() > 0 && $b->filled() > 0 && Closeness::of($a, $b) >= self::CLOSE;
    }

    private function of(int $field): ?FieldProfile
    {
        $at = $this->fields->placed([$field])[$field] ?? null;

        return null === $at ? null : $this->profiles->of($at->entry)?->field($at->place->column);
    }
}
