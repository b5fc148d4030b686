<?php

declare(strict_types=1);

namespace Fasti\Term;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Register\Standing;

/** A business word with its definition. A word that means something else in another area is another term. */
#[ORM\Entity]
#[ORM\Table(name: 'term')]
#[ORM\UniqueConstraint(name: 'term_once', columns: ['name', 'area'])]
class Term
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 190)]
    public string $name = '';

    /** The subject area in which the word means this; '' for everywhere. */
    #[ORM\Column(length: 120)]
    public string $area = '';

    #[ORM\Column(type: 'text')]
    public string $definition = '';

    /** Other words for it, with commas between. */
    #[ORM\Column(type: 'text')]
    public string $synonyms = '';

    /** Names of terms with commas between; of those, this one is a kind or a part. */
    #[ORM\Column(type: 'text')]
    public string $broader = '';

    #[ORM\Column(type: 'text')]
    public string $related = '';

    #[ORM\Column(length: 120)]
    public string $owner = '';

    #[ORM\Column(length: 12, enumType: Standing::class)]
    public Standing $standing = Standing::Open;

    #[ORM\Column]
    public \DateTimeImmutable $changedAt;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
