<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** Some words of a note in one style: plain, strong, stressed, code; and where they lead. */
final readonly class NoteSpan
{
    public function __construct(public string $text, public string $style = 'plain', public string $link = '')
    {
    }

    public function width(float $size): float
    {
        return 'code' === $this->style ? TextWidth::code($this->text, $size - 1)
            : TextWidth::text($this->text, $size) * ('strong' === $this->style ? 1.06 : 1.0);
    }
}
