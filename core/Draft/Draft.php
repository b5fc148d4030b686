<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/** A text that is proposed. It counts as nothing until a person takes it. */
final readonly class Draft
{
    /**
     * @param string       $property   as Text\Property names it: businessName, meaning, grain, unit, allowed, personal, verb, verbBack
     * @param float        $confidence how often such a one is right, 0 to 1
     * @param list<string> $because    what it was made from, in a few words each
     * @param string       $rule       which rule made it, or the surest of several
     */
    public function __construct(public string $property, public string $text, public float $confidence, public array $because, public string $rule = '')
    {
    }

    public function by(string $rule): self
    {
        return new self($this->property, $this->text, $this->confidence, $this->because, $rule);
    }

    public function with(float $confidence): self
    {
        return new self($this->property, $this->text, max(0.0, min(0.99, $confidence)), $this->because, $this->rule);
    }

    /** Equal as long as what speaks for the draft, and what it says, is the same: a dismissed one comes back only with another. */
    public function evidence(): string
    {
        return hash('xxh128', $this->property."\0".$this->text."\0".implode("\0", $this->because));
    }
}
