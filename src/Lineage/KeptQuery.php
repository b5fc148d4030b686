<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Source\Source;

/** A query that is no view and was kept under a name. It is read anew whenever it is looked at. */
#[ORM\Entity]
#[ORM\Table(name: 'kept_query')]
class KeptQuery
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    #[ORM\Column(length: 120)]
    public string $name = '';

    #[ORM\Column(type: 'text', length: 16777215)]
    public string $text = '';

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $account;

    #[ORM\Column]
    public \DateTimeImmutable $keptAt;

    public function __construct(Source $source, string $name, string $text, Account $account)
    {
        $this->source = $source;
        $this->name = $name;
        $this->text = $text;
        $this->account = $account;
        $this->keptAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return (int) $this->id;
    }
}
