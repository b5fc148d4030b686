<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\ORM\Mapping as ORM;

/** A field that a part of a model is made from. Written and read in bulk by Models; this is its form. */
#[ORM\Entity]
#[ORM\Table(name: 'model_field')]
#[ORM\Index(name: 'model_field_used', columns: ['field_id'])]
class ModelField
{
    #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public KeptModel $model;

    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $fieldId;

    #[ORM\Id, ORM\Column(length: 12)]
    public string $kind;

    #[ORM\Id, ORM\Column(length: 160)]
    public string $part;
}
