<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Join\Property\EntryArea;
use Fasti\Join\Property\EntryKindProperty;
use Fasti\Text\TextSaved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** Keeps what is said of kinds and areas where entries are narrowed by it. */
#[AsEventListener]
final readonly class RoleSaid
{
    public function __construct(private EntryRoles $roles)
    {
    }

    public function __invoke(TextSaved $saved): void
    {
        if ('entry' === $saved->subject->topic && EntryKindProperty::NAME === $saved->property) {
            $this->roles->say($saved->subject->id, 'decided', $saved->value);
        } elseif ('entry' === $saved->subject->topic && EntryArea::NAME === $saved->property) {
            $this->roles->say($saved->subject->id, 'area', $saved->value);
        }
    }
}
