<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Kept\Kept;
use Fasti\Source\Source;

/** A query that is no view and was kept under a name. It is read anew whenever it is looked at. */
#[ORM\Entity]
#[ORM\Table(name: 'kept_query')]
class KeptQuery extends Kept
{
    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    #[ORM\Column(type: 'text', length: 16777215)]
    public string $text = '';

    public function __construct(Source $source, string $name, string $text, Account $owner)
    {
        parent::__construct($name, '', $owner);
        $this->source = $source;
        $this->text = $text;
        // Queries are everybody's from the beginning.
        $this->shared = true;
    }
}
