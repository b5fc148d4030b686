<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** What people have put on a diagram as SVG. */
final class SvgNote
{
    public static function group(Note $note, bool $standalone): string
    {
        $group = SvgText::attributes(['class' => 'note of-'.$note->kind->name(), 'data-note' => $note->key]);

        return "<g$group>".$note->kind->svg($note, $standalone)."</g>\n";
    }
}
