<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;

/** Which rows a trial looks at, by an attribute or by what stands elsewhere; or which rows of its answer it shows, by a figure. */
final readonly class Condition
{
    /**
     * @param string          $what   an attribute or a measure, as the model names it; of Test::Has the role whose rows are meant; '' of Test::Any and All
     * @param list<string>    $values as people write them: numbers, texts, dates, years and months; of Test::During words such as "last year"; of
     *                                Test::Has the role of which there is a row
     * @param list<string>    $facts  those that it holds for; none for all
     * @param list<Condition> $of     of Test::Any and All those that it is put together of; of Test::Has what holds of the row elsewhere
     */
    public function __construct(
        public string $what,
        public Test $test,
        #[ListOf('string'), WhenSet]
        public array $values = [],
        #[ListOf('string'), WhenSet]
        public array $facts = [],
        #[ListOf(self::class), WhenSet]
        public array $of = [],
    ) {
    }

    /** @return list<self> itself, or those that it is put together of: none of them is put together */
    public function leaves(): array
    {
        return $this->test->isOfOthers() ? array_merge([], ...array_map(static fn (self $one): array => $one->leaves(), $this->of)) : [$this];
    }

    /**
     * @param callable(string): string $name of an attribute or a measure
     * @param callable(string): string $role
     */
    public function renamed(callable $name, callable $role): self
    {
        $elsewhere = $this->test->isElsewhere();

        return new self(
            match (true) {
                $elsewhere => $role($this->what),
                $this->test->isOfOthers() => '',
                default => $name($this->what),
            },
            $this->test,
            $elsewhere ? array_map($role, $this->values) : $this->values,
            array_map($role, $this->facts),
            array_map(static fn (self $one): self => $one->renamed($name, $role), $this->of),
        );
    }
}
