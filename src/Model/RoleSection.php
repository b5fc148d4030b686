<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;

/** A role on the page of its model. */
final readonly class RoleSection
{
    /**
     * @param Role          $dimension the role that says its attributes
     * @param list<Role>    $also      roles that are like it
     * @param list<Measure> $measures
     */
    public function __construct(public Role $role, public Role $dimension, public array $also, public array $measures)
    {
    }

    public function isFact(): bool
    {
        return RoleKind::Fact === $this->role->kind;
    }

    public function isDimension(): bool
    {
        return RoleKind::Dimension === $this->role->kind;
    }
}
