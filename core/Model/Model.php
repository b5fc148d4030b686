<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Catalog\With;
use Fasti\Core\Model\Aggregate\OfMeasures;

/** Facts, dimensions and measures laid over entries, so that questions can be asked in business words. */
final readonly class Model
{
    use With;

    /**
     * @param list<Role>      $roles
     * @param list<ModelJoin> $joins
     * @param list<Measure>   $measures
     * @param list<Hierarchy> $hierarchies
     * @param list<Choice>    $choices
     * @param list<Sharing>   $sharings
     */
    public function __construct(
        public string $name,
        #[WhenSet]
        public string $purpose = '',
        #[ListOf(Role::class)]
        public array $roles = [],
        #[ListOf(ModelJoin::class)]
        public array $joins = [],
        #[ListOf(Measure::class)]
        public array $measures = [],
        #[ListOf(Hierarchy::class), WhenSet]
        public array $hierarchies = [],
        #[ListOf(Choice::class), WhenSet]
        public array $choices = [],
        #[ListOf(Sharing::class), WhenSet]
        public array $sharings = [],
    ) {
    }

    public function role(string $name): ?Role
    {
        foreach ($this->roles as $role) {
            if ($role->name === $name) {
                return $role;
            }
        }

        return null;
    }

    public function measure(string $name): ?Measure
    {
        foreach ($this->measures as $measure) {
            if ($measure->name === $name) {
                return $measure;
            }
        }

        return null;
    }

    /** The role that says what a role has: itself, or the one that it is like. */
    public function dimension(Role $role): Role
    {
        return '' === $role->like ? $role : ($this->role($role->like) ?? $role);
    }

    /** @return list<Attribute> */
    public function attributesOf(Role $role): array
    {
        return $this->dimension($role)->attributes;
    }

    public function attribute(Level $at): ?Attribute
    {
        $role = $this->role($at->role);

        return null === $role ? null : $this->dimension($role)->attribute($at->attribute);
    }

    /** @return list<Role> */
    public function facts(): array
    {
        return array_values(array_filter($this->roles, static fn (Role $role): bool => RoleKind::Fact === $role->kind));
    }

    /**
     * The facts of which a figure is taken: one, or those of all that it is computed of.
     *
     * @return list<string>
     */
    public function factsOf(Measure $measure, int $depth = 0): array
    {
        if (!$measure->aggregation->isOfMeasures()) {
            return [$measure->fact];
        }
        $facts = [];
        foreach ($depth > 8 ? [] : $this->partsOf($measure) as $part) {
            $of = $this->measure($part);
            $facts = null === $of ? $facts : [...$facts, ...$this->factsOf($of, $depth + 1)];
        }

        return array_values(array_unique($facts));
    }

    /** @return list<string> the measures of which another is computed at once, as the model names them */
    public function partsOf(Measure $measure): array
    {
        if (!$measure->aggregation instanceof OfMeasures) {
            return [];
        }
        $known = [];
        foreach ($this->measures as $one) {
            $known[ModelNames::folded($one->name)] = $one->name;
        }

        return array_map(static fn (string $part): string => $known[ModelNames::folded($part)] ?? $part, $measure->aggregation->parts($measure));
    }
}
