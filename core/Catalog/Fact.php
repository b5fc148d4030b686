<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * What is said of a plain fact, a text, a number or yes and no, where it is declared: by that it is compared, told, shown and described without
 * being named anywhere else. See Facts.
 */
#[\Attribute(\Attribute::TARGET_PARAMETER)]
final readonly class Fact
{
    /**
     * @param string $about        for the schema of the open form
     * @param string $label        on the page of the entry; '' where it has a place of its own there, or none
     * @param string $changed      what a change of it is, in a sentence: `%s` twice, as it is and as it was; of yes and no, that it is so now
     * @param string $ended        of yes and no: that it is so no longer
     * @param string $unsaid       in that sentence, for how it is where nothing is said
     * @param string $wasUnsaid    the same for how it was; '' for the same words
     * @param bool   $ofViews      views have it, too
     * @param bool   $silenceTells that only one of two catalogs says it is a change, even where the two were read in different manners
     */
    public function __construct(
        public string $about,
        public string $label = '',
        public string $changed = '',
        public string $ended = '',
        public string $unsaid = '',
        public string $wasUnsaid = '',
        public bool $ofViews = true,
        public bool $silenceTells = true,
    ) {
    }

    public function change(string|int|float|bool|null $was, string|int|float|bool|null $is): string
    {
        if (\is_bool($is)) {
            return $is ? $this->changed : $this->ended;
        }

        return \sprintf($this->changed, $is ?? $this->unsaid, $was ?? ('' === $this->wasUnsaid ? $this->unsaid : $this->wasUnsaid));
    }
}
