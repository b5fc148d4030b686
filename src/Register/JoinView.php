<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\JoinRole;
use Fasti\Core\Join\Sentence;

/** A join as pages show it, from the side of one entry: `out` when that entry holds the reference. */
final readonly class JoinView
{
    /**
     * @param list<array{string, string}> $pairs from, to
     * @param list<string>                $names of the constraints that declare it
     * @param string                      $reason of one that was worked out: how
     * @param array{string, string}|null  $where  a field of the referring entry and the value it has in the rows that take part
     * @param ?float                      $confidence of one that is proposed: how often such a one is right
     */
    public function __construct(
        public int $id,
        public bool $out,
        public int $fromId,
        public int $toId,
        public string $fromTitle,
        public string $toTitle,
        public string $fromName,
        public string $toName,
        public array $pairs,
        public Cardinality $cardinality,
        public string $verb,
        public string $verbBack,
        public JoinKind $kind,
        public string $onDelete,
        public string $onUpdate,
        public array $names = [],
        public string $reason = '',
        public ?array $where = null,
        public ?float $confidence = null,
    ) {
    }

    public function withVerbs(string $verb, string $verbBack): self
    {
        return new self(
            $this->id, $this->out, $this->fromId, $this->toId, $this->fromTitle, $this->toTitle, $this->fromName, $this->toName, $this->pairs,
            $this->cardinality,
            $verb, $verbBack, $this->kind, $this->onDelete, $this->onUpdate, $this->names, $this->reason, $this->where, $this->confidence,
        );
    }

    public function forth(): Sentence
    {
        return Sentence::forth($this->fromTitle, $this->toTitle, $this->cardinality, $this->verb, $this->isSelf(), $this->role());
    }

    public function back(): Sentence
    {
        return Sentence::back($this->fromTitle, $this->toTitle, $this->cardinality, $this->verbBack, $this->isSelf(), $this->role());
    }

    /** What it leads to, in a sentence: "station". */
    public function target(): string
    {
        return Sentence::forth($this->fromTitle, $this->toTitle, $this->cardinality, self: $this->isSelf())->object;
    }

    private function role(): string
    {
        return JoinRole::of($this->pairs, $this->toName);
    }

    public function isSelf(): bool
    {
        return $this->fromId === $this->toId;
    }

    /** Of a join that only some rows take part in: which. */
    public function condition(): string
    {
        return null === $this->where ? '' : $this->where[0].' is '.$this->where[1];
    }

    public function otherId(): int
    {
        return $this->out ? $this->toId : $this->fromId;
    }

    /** The fields that hold the reference, as people write them. */
    public function columns(): string
    {
        return implode(', ', array_column($this->pairs, 0));
    }

    /** What happens to the referring rows, in words; empty when the database simply refuses. */
    public function actions(): string
    {
        $say = static fn (string $action, string $when): ?string => match ($action) {
            'CASCADE' => 'deleted' === $when ? 'deleted along with it' : 'follows when its key changes',
            'SET NULL' => 'emptied when it is '.$when,
            'SET DEFAULT' => 'set to its default when it is '.$when,
            default => null,
        };

        return implode('; ', array_filter([$say($this->onDelete, 'deleted'), $say($this->onUpdate, 'changed')]));
    }
}
