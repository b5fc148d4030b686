<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Register\FieldsRenamed;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** A profile knows fields by their names. */
final readonly class FieldsFollow
{
    public function __construct(private Profiles $profiles)
    {
    }

    #[AsEventListener]
    public function renamed(FieldsRenamed $renamed): void
    {
        $this->profiles->rename($renamed->entry, $renamed->names);
    }
}
