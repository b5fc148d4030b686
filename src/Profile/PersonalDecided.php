<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Register\Saved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** When somebody says that a field is personal, the values of it that were kept so far are forgotten. */
final readonly class PersonalDecided
{
    public function __construct(private Profiles $profiles)
    {
    }

    #[AsEventListener]
    public function saved(Saved $saved): void
    {
        if ('personal' === $saved->property && 'yes' === $saved->value) {
            $this->profiles->forget($saved->entryId, $saved->fieldName);
        }
    }
}
