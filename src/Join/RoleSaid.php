<?php

declare(strict_types=1);

namespace Fasti\Join;

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
        if ('entry' === $saved->subject->topic && JoinProperties::KIND === $saved->property) {
            $this->roles->say($saved->subject->id, 'decided', $saved->value);
        } elseif ('entry' === $saved->subject->topic && JoinProperties::AREA === $saved->property) {
            $this->roles->say($saved->subject->id, 'area', $saved->value);
        }
    }
}
