<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Text\SaidStore;
use Fasti\Text\TextSaved;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** Keeps which field a text names when it is written, so that it stays the same one under whatever name it has later. */
final readonly class OriginSaved
{
    public function __construct(private Origins $origins, private SaidStore $said)
    {
    }

    #[AsEventListener(priority: 10)]
    public function saved(TextSaved $saved): void
    {
        if (Origins::PROPERTY === $saved->property) {
            $text = $this->said->one('field', $saved->subject->id, Origins::PROPERTY);
            $field = '' === $text ? null : $this->origins->named($text);
            $this->said->write('field', $saved->subject->id, Origins::FIELD, \is_int($field) ? (string) $field : '');
            $this->origins->reset();
        }
    }
}
