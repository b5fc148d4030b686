<?php

declare(strict_types=1);

namespace Fasti\Text;

/** A change of a text as a history has it; `of` is how the thing is called where it is not that of the page. */
final readonly class TextChange
{
    public function __construct(
        public int $id,
        public string $topic,
        public int $topicId,
        public string $property,
        public string $before,
        public string $after,
        public string $at,
        public string $by,
        public string $of,
    ) {
    }
}
