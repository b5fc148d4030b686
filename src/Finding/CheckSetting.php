<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Core\Finding\Severity;

/** What a person has said about a check, where that is not as it comes. */
#[ORM\Entity]
#[ORM\Table(name: 'check_setting')]
class CheckSetting
{
    #[ORM\Id, ORM\Column(name: 'check_name', length: 40)]
    public string $check = '';

    #[ORM\Column]
    public bool $runs = true;

    #[ORM\Column(length: 12, nullable: true, enumType: Severity::class)]
    public ?Severity $severity = null;
}
