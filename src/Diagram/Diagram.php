<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Kept\Kept;

/** A diagram that was made for a purpose and kept. What stands where on it are its pieces. */
#[ORM\Entity]
#[ORM\Table(name: 'diagram')]
class Diagram extends Kept
{
    #[ORM\Column(length: 12)]
    public string $standing = 'open';

    /** Counts the changes of its pieces, so that who looks at it knows what is new. */
    #[ORM\Column(options: ['unsigned' => true])]
    public int $moves = 0;

    /** How its lines were led last, by the id of the join. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $ways = '{}';

    /** What it showed of its sources when somebody last looked after it: entries with their names, and joins. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $known = '{}';

    /** A small picture of it, and the count of moves and of what was known when it was made. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $small = '';

    public function __construct(string $name, string $purpose, Account $owner)
    {
        parent::__construct($name, $purpose, $owner);
        // Diagrams are everybody's from the beginning.
        $this->shared = true;
    }
}
