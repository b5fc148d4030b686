<?php

declare(strict_types=1);

namespace Fasti\Text;

use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A text that people may write about something. One class each; found by tag. */
#[AutoconfigureTag]
abstract class Property
{
    /** What it is written about: the name of a Topic. */
    abstract public function topic(): string;

    /** As scripts and the history name it. */
    abstract public function name(): string;

    /** As people are told of it: "business name". */
    abstract public function label(): string;

    /** The greatest length, in characters. */
    public function most(): int
    {
        return 15000;
    }

    /** The column of its topic's table; null keeps it beside, with other texts that nothing is searched or counted by. */
    public function column(): ?string
    {
        return null;
    }

    public function editor(): Editor
    {
        return Editor::Line;
    }

    /** @return array<int|string, string> of an Editor::Choice: value → words; the first is that of nothing said */
    public function choices(): array
    {
        return [];
    }

    /** What stands where nothing is written yet. */
    public function blank(): string
    {
        return '';
    }

    /** It shows by itself in the facts of its topic, on the page and in editions. One that has a place of its own does not. */
    public function shownAmongFacts(): bool
    {
        return false;
    }

    /** What a change did, in words, where before and after are no texts that people read; '' where they are. */
    public function inWords(string $before, string $after): string
    {
        return '';
    }

    /**
     * Whether a text may be kept, besides its length.
     *
     * @param int $id of what it is about
     *
     * @throws BadText with words for the person
     */
    public function check(string $value, int $id): void
    {
        if (Editor::Choice === $this->editor() && !\array_key_exists($value, $this->choices())) {
            throw new BadText(\sprintf('For %s, choose one of: %s.', $this->label(), implode(', ', $this->choices())));
        }
    }
}
