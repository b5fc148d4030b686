<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\ORM\Mapping as ORM;

/** How often a measure was asked for, by whomever: nobody's name is kept. */
#[ORM\Entity, ORM\Table(name: 'model_asked')]
class MeasureAsked
{
    #[ORM\Column(options: ['unsigned' => true])]
    public int $times = 0;

    #[ORM\Column]
    public \DateTimeImmutable $lastAt;

    public function __construct(
        #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public KeptModel $model,
        #[ORM\Id, ORM\Column(length: 160)]
        public string $measure,
    ) {
        $this->lastAt = new \DateTimeImmutable();
    }
}
