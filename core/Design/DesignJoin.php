<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** How two things are connected, as a sentence in both directions, with what is known of the connection itself. */
final readonly class DesignJoin
{
    use \Fasti\Core\Catalog\With;

    /**
     * @param Count            $count      of `to` for each `from`
     * @param Count            $countBack  of `from` for each `to`
     * @param string           $role       what a `to` is to a `from`, where that is more than its name: "home station"
     * @param list<Attribute>  $attributes of the join itself
     * @param list<Identifier> $keys       what tells two links apart, where it is not both ends
     * @param bool             $again      the same two may be linked more than once
     * @param list<string>     $through    attributes of the child that hold the key, where that is not worked out
     * @param list<string>     $key        attributes of the parent that they lead to, where it is not its key
     * @param ?string          $constraint its name in the database
     * @param ?string          $onDelete   in the words of SQL
     * @param ?string          $table      of a link: its name in the database
     * @param string           $link       of a link: what one of it is called
     * @param ?string          $keyed      of a link: number, uuid or both (ends), where it is decided otherwise than for the design
     */
    public function __construct(
        public string $from,
        public string $verb,
        public Count $count,
        public string $to,
        public string $verbBack,
        public Count $countBack,
        public string $role = '',
        public array $attributes = [],
        public array $keys = [],
        public bool $again = false,
        public array $through = [],
        public array $key = [],
        public ?string $constraint = null,
        public ?string $onDelete = null,
        public ?string $onUpdate = null,
        public ?string $table = null,
        public string $link = '',
        public ?string $keyed = null,
        public int $line = 0,
    ) {
    }

    public function isLink(): bool
    {
        return $this->count->many() && $this->countBack->many();
    }

    /** Whether `from` is the child, which holds the key of the other. */
    public function fromHolds(): bool
    {
        if ($this->count->many() !== $this->countBack->many()) {
            return $this->countBack->many();
        }

        // One at both ends: it stands where it is always there; the first otherwise.
        return !(1 === $this->countBack->least && 0 === $this->count->least);
    }

    public function child(): string
    {
        return $this->fromHolds() ? $this->from : $this->to;
    }

    public function parent(): string
    {
        return $this->fromHolds() ? $this->to : $this->from;
    }

    /** How many parents a child has. */
    public function parents(): Count
    {
        return $this->fromHolds() ? $this->count : $this->countBack;
    }

    public function children(): Count
    {
        return $this->fromHolds() ? $this->countBack : $this->count;
    }
}
