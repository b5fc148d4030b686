<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;

/** A type of one's own: an enumeration, a domain, or a composite one. */
final class OwnType
{
    /** @var list<string>|null of an enumeration */
    public ?array $members = null;
    /** What a domain stands for; \x02 and a key for another type of one's own. */
    public ?string $base = null;
    public bool $required = false;
    /** @var list<CheckConstraint> of a domain */
    public array $checks = [];
    /** @var list<ColumnBuilder> of a composite type */
    public array $columns = [];

    public function __construct(public string $schema, public string $name)
    {
    }
}
