<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Core\Draft\Draft;
use Fasti\Finding\FoundAt;
use Fasti\Finding\Mending;
use Fasti\Finding\MendingText;
use Fasti\Register\Fields;

/** A meaning that only repeats the name gives way to the draft there would be without it. */
final readonly class MendUndescribed implements Mending
{
    public function __construct(private Drafting $drafting, private Fields $fields)
    {
    }

    public function check(): string
    {
        return 'meaning-repeats-name';
    }

    public function words(): string
    {
        return 'take the draft in its place';
    }

    public function text(FoundAt $place): ?MendingText
    {
        $field = $place->field;
        $base = null === $field ? '' : $this->fields->placed([$field])[$field]->meaning ?? '';
        $draft = null === $field || '' === $base ? null : $this->drafting->without($place->entry, $field);

        return $draft instanceof Draft ? new MendingText('field', $field, 'meaning', $base, $draft->text) : null;
    }
}
