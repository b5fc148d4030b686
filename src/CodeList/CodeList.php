<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Doctrine\ORM\Mapping as ORM;

/** The values that fields may take, each with its meaning. Used by any number of fields. */
#[ORM\Entity]
#[ORM\Table(name: 'code_list')]
class CodeList
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 190, unique: true)]
    public string $name = '';

    #[ORM\Column(type: 'text')]
    public string $meaning = '';

    #[ORM\Column]
    public \DateTimeImmutable $changedAt;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
