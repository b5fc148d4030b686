<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\ListOf;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\WhenSet;

/** What became of one table, as it is kept and handed out: without the catalogs that it came of. Its open form is what `fasti:compare` prints. */
final readonly class DriftItem
{
    public const YES = 'yes';
    public const NO = 'no';
    /** A rename that is none: one is gone, the other new. */
    public const APART = 'apart';

    /**
     * @param string            $kind    of the table
     * @param ?Place            $from    of a renamed one
     * @param string            $reason  why a renamed one is taken for the same
     * @param list<string>      $words   what changed of the table itself
     * @param list<DriftColumn> $columns
     * @param string            $decided what was answered; '' before that
     */
    public function __construct(
        public Fate $change,
        public string $kind,
        public string $schema,
        public string $name,
        #[WhenSet] public ?Place $from = null,
        #[WhenSet] public string $reason = '',
        #[ListOf('string'), WhenSet] public array $words = [],
        #[ListOf(DriftColumn::class), WhenSet] public array $columns = [],
        #[WhenSet] public string $decided = '',
    ) {
    }

    /**
     * @param array<mixed> $kept its open form
     *
     * @throws \InvalidArgumentException where it says nothing of what became of it
     */
    public static function read(array $kept): self
    {
        $change = $kept['change'] ?? null;
        if (!\is_string($change) || null === Fate::tryFrom($change)) {
            throw new \InvalidArgumentException('It is not said what became of it.');
        }

        return OpenForm::read(self::class, $kept);
    }

    public function place(): Place
    {
        return new Place($this->schema, $this->name);
    }

    /** Where the table stood before; null for a new one. */
    public function before(): ?Place
    {
        return Fate::New === $this->change ? null : $this->from ?? $this->place();
    }

    public function decided(string $answer): self
    {
        return new self($this->change, $this->kind, $this->schema, $this->name, $this->from, $this->reason, $this->words, $this->columns, $answer);
    }
}
