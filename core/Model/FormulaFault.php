<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What is wrong with an expression: where, and what was expected there. */
final readonly class FormulaFault
{
    /** @param int $at characters from its beginning */
    public function __construct(public string $message, public int $at, public string $expected = '')
    {
    }

    public function inWords(string $text): string
    {
        $near = trim(mb_substr($text, $this->at, 20));

        return \sprintf(
            '%s, at character %d%s.%s',
            $this->message,
            $this->at + 1,
            '' === $near ? ' (the end)' : " (“{$near}”)",
            '' === $this->expected ? '' : ' '.$this->expected,
        );
    }
}
