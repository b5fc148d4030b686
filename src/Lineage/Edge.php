<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Register\Entry;
use Fasti\Register\Field;

/** A field of a view, or the view as a whole, depends on a field. */
#[ORM\Entity]
#[ORM\Table(name: 'lineage')]
#[ORM\Index(name: 'lineage_field', columns: ['field_id'])]
class Edge
{
    /** The view. */
    #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public Entry $entry;

    /** Its field; 0 for the view as a whole: which rows there are. */
    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $fieldId = 0;

    #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public Field $from;

    /** See Part. */
    #[ORM\Id, ORM\Column(length: 9)]
    public string $part = '';
}
