<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Join\End;

/** How rows of one role find rows of another: `from` holds the reference. */
final readonly class ModelJoin
{
    /**
     * @param list<string>  $fields of `from`
     * @param list<string>  $keys   of `to`, in the same order
     * @param list<string>  $where  a field of `from`, and the value that it has in the rows that take part; none for all rows
     */
    public function __construct(
        public string $from,
        public string $to,
        #[ListOf('string')]
        public array $fields,
        #[ListOf('string')]
        public array $keys,
        public End $fromEnd = End::NoneOrMore,
        public End $toEnd = End::NoneOrOne,
        #[ListOf('string'), WhenSet]
        public array $where = [],
    ) {
        if (!([] !== $fields && \count($fields) === \count($keys))) {
            throw new \InvalidArgumentException('A join pairs as many fields as keys.');
        }
        if (!\in_array(\count($where), [0, 2], true)) {
            throw new \InvalidArgumentException('A condition of a join is a field and its value.');
        }
    }

    /** What tells it from other joins of the model. */
    public function key(): string
    {
        return $this->from.'.'.implode('+', $this->fields).' → '.$this->to.'.'.implode('+', $this->keys)
            .([] === $this->where ? '' : ' where '.implode(' is ', $this->where));
    }
}
