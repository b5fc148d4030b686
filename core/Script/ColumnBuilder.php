<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Generated;

/** A column while its script is still being read. Expressions are as the script writes them until the end. */
final class ColumnBuilder
{
    public bool $nullable = true;
    /** NOT NULL or NULL was said. */
    public bool $nullSaid = false;
    public ?string $default = null;
    public string $comment = '';
    public bool $auto = false;
    public ?Generated $generated = null;
    public ?string $onUpdate = null;
    public ?string $charset = null;
    /** The collation that its values have; null where it is that which the database would give it. */
    public ?string $collation = null;
    public ?string $base = null;
    /** Key of its type, where that is one of one's own; a list of it ends in []. */
    public ?string $ownType = null;
    /** Key of the sequence that numbers it. */
    public ?string $sequence = null;
    /** It counts by the identity of the standard, which has no default of its own. */
    public bool $identity = false;
    /** Words behind its type that say what its texts are made of: `binary`, `ascii`. */
    public string $words = '';
    /** How many tables it is inherited from, and whether it stands in the table itself too. */
    public int $inherited = 0;
    public bool $local = true;

    public function __construct(public string $name, public string $type = '')
    {
    }

    /** @param bool $required whatever it says, since it is part of a key */
    public function column(bool $required, ?string $tableCollation): Column
    {
        $same = null === $this->collation || 'default' === $this->collation || $this->collation === $tableCollation;

        return new Column(
            $this->name,
            $this->type,
            $this->nullable && !$required,
            $this->default,
            $this->comment,
            $this->auto,
            $this->generated,
            $this->onUpdate,
            $same ? null : $this->charset,
            $same ? null : $this->collation,
            $this->base,
        );
    }
}
