<?php

declare(strict_types=1);

namespace Fasti\Text;

/** A text that people may write about something: declared in the Properties of a room. */
final readonly class Property
{
    /**
     * @param string                                             $topic           what it is written about: the name of a Topic
     * @param string                                             $name            as scripts and the history name it
     * @param string                                             $label           as people are told of it: "business name"; '' for the name
     * @param int                                                $most            the greatest length, in characters
     * @param ?string                                            $column          of its topic's table; null keeps it beside, with other texts
     *                                                                            that nothing is searched or counted by
     * @param string                                             $blank           what stands where nothing is written yet
     * @param bool                                               $shownAmongFacts it shows by itself in the facts of its topic, on the page and
     *                                                                            in editions; one with a place of its own does not
     * @param array<int|string, string>|\Closure(): array<int|string, string> $choices value → words, of an Editor::Choice; the first is
     *                                                                            that of nothing said
     * @param (\Closure(string, int): void)|null                 $check           whether a text may be kept of what has this id, besides its
     *                                                                            length; throws BadText with words for the person
     * @param (\Closure(string, string): string)|null            $inWords         what a change did, where before and after are no texts that
     *                                                                            people read
     */
    public function __construct(
        private string $topic,
        private string $name,
        private string $label = '',
        private int $most = 15000,
        private ?string $column = null,
        private Editor $editor = Editor::Line,
        private string $blank = '',
        private bool $shownAmongFacts = false,
        private array|\Closure $choices = [],
        private ?\Closure $check = null,
        private ?\Closure $inWords = null,
    ) {
    }

    public function topic(): string
    {
        return $this->topic;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function label(): string
    {
        return '' === $this->label ? $this->name : $this->label;
    }

    public function most(): int
    {
        return $this->most;
    }

    public function column(): ?string
    {
        return $this->column;
    }

    public function editor(): Editor
    {
        return $this->editor;
    }

    /** @return array<int|string, string> */
    public function choices(): array
    {
        return $this->choices instanceof \Closure ? ($this->choices)() : $this->choices;
    }

    public function blank(): string
    {
        return $this->blank;
    }

    public function shownAmongFacts(): bool
    {
        return $this->shownAmongFacts;
    }

    /** What a change did; '' where its texts say so themselves. */
    public function inWords(string $before, string $after): string
    {
        return null === $this->inWords ? '' : ($this->inWords)($before, $after);
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
        if (null !== $this->check) {
            ($this->check)($value, $id);
        } elseif (Editor::Choice === $this->editor && !\array_key_exists($value, $this->choices())) {
            throw new BadText(\sprintf('For %s, choose one of: %s.', $this->label(), implode(', ', $this->choices())));
        }
    }
}
