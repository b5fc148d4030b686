<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Place;

/** Which rows that are there a planned change cannot keep as they are, as a question to the data, and what is to happen to them. */
final readonly class RowQuestion
{
    /** Nothing is done while there is such a row. */
    public const STOP = 'stop';
    /** They get another value. */
    public const VALUE = 'value';
    /** They are taken out, and a copy of them is kept beside. */
    public const OUT = 'left out';
    /** What they hold is lost. */
    public const LOST = 'lost';

    /**
     * @param string       $key   the same for as long as the plan is
     * @param string       $words what is so of the rows: `have “kind” longer than 20 characters`
     * @param Place        $table as it is called before
     * @param string       $where SQL over that table
     * @param string       $sets  what VALUE does, in words: `they get 9`
     * @param string       $fate  one of $fates
     * @param list<string> $fates that can be chosen
     * @param list<string> $value statements that VALUE needs before everything else; none where a step of the plan does it
     * @param bool         $plain it may be put to a source: nothing in it was written by somebody but comparisons of fields
     */
    public function __construct(
        public string $key,
        public string $words,
        public Place $table,
        public string $where,
        public string $sets,
        public string $fate,
        public array $fates,
        public array $value = [],
        public bool $plain = true,
    ) {
    }

    public function with(string $fate): self
    {
        return new self($this->key, $this->words, $this->table, $this->where, $this->sets, $fate, $this->fates, $this->value, $this->plain);
    }

    /** What is done, of a fate that can be chosen. */
    public function done(string $fate): string
    {
        return $this->with($fate)->then();
    }

    /** What happens to them, in words. */
    public function then(): string
    {
        return match ($this->fate) {
            self::STOP => 'nothing is done while there is one',
            self::OUT => 'they are taken out, and a copy is kept',
            self::LOST => 'what stands there is lost',
            default => $this->sets,
        };
    }
}
