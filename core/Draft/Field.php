<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Profile\FieldProfile;

/** A field for which drafts are made, with everything that rules ask. */
final class Field
{
    private ?bool $flag = null;

    public function __construct(
        public readonly Material $material,
        public readonly int $entry,
        public readonly Table $table,
        public readonly Column $column,
        public readonly Type $type,
        public readonly ?FieldProfile $profile,
        public readonly FieldName $name,
        public readonly Said $said,
    ) {
    }

    /** The same as if nobody had said anything of it. */
    public function unsaid(): self
    {
        return new self($this->material, $this->entry, $this->table, $this->column, $this->type, $this->profile, $this->name, new Said());
    }

    /** What a row is called: "barrier survey". */
    public function noun(): string
    {
        return $this->material->noun($this->entry);
    }

    public function lead(): ?Lead
    {
        $leads = $this->material->leadsOf($this->entry, $this->column->name);
        if ([] === $leads) {
            return null;
        }
        usort($leads, static fn (Lead $a, Lead $b): int => [\count($a->pairs), $b->certainty] <=> [\count($b->pairs), $a->certainty]);

        return $leads[0];
    }

    /** Whether it tells rows apart by itself, as the database sees to. */
    public function isKey(): bool
    {
        $keys = array_filter([$this->table->primaryKey, ...$this->table->uniqueKeys]);

        return [] !== array_filter($keys, fn ($key): bool => [$this->column->name] === $key->columns);
    }

    public function isPrimary(): bool
    {
        return [$this->column->name] === ($this->table->primaryKey->columns ?? []);
    }

    /** Whether it says yes or no. */
    public function isFlag(): bool
    {
        return $this->flag ??= null === $this->lead() && !$this->isPrimary() && (TypeFamily::Flag === $this->type->family
            || TypeFamily::Whole === $this->type->family && 1 === $this->type->length && null !== $this->type->bits
            || TypeFamily::Time !== $this->type->family && '' !== $this->name->asks && ($this->type->length ?? 1) <= 5
            || 'flag' === $this->profile?->likely
            || self::saysYesAndNo($this->type->members));
    }

    /** Day rather than instant. */
    public function isDay(): bool
    {
        return 'date' === $this->type->name || 'date kept as text' === $this->profile?->likely && ($this->profile->longest ?? 99) <= 10;
    }

    public function isTime(): bool
    {
        return $this->type->isPlain(TypeFamily::Time) && 'time' !== $this->type->name && 'interval' !== $this->type->name
            || 'date kept as text' === $this->profile?->likely
            || $this->type->isPlain(TypeFamily::Text) && \in_array($this->name->last(), ['on', 'date', 'until', 'since'],
                true) && ($this->type->length ?? 0) <= 32
                && ($this->type->length ?? 0) >= 8 && null === $this->lead();
    }

    /** It may be empty, and as far as the data was looked at sometimes is. */
    public function isSometimesEmpty(): bool
    {
        return $this->column->nullable && (null === $this->profile || $this->profile->filled() < $this->profile->rows);
    }

    public function isAlwaysEmpty(): bool
    {
        return 'always empty' === $this->profile?->likely;
    }

    /**
     * The values it may have, where they are few and known: by its type, by a check, or by the data.
     *
     * @return array{list<string>, string}|null and from where
     */
    public function values(): ?array
    {
        if ([] !== $this->type->members) {
            return [$this->type->members, 'its type allows these'];
        }
        foreach ($this->table->checks as $check) {
            $values = null === $check->column || $check->column === $this->column->name ? Checks::values($check->expression, $this->column->name) : null;
            if (null !== $values) {
                return [$values, 'a check of the database allows these'];
            }
        }
        $profile = $this->profile;
        if (null !== $profile && '' === $profile->personal && 'code' === $profile->likely && [] !== $profile->frequent
            && \count($profile->frequent) === $profile->distinct) {
            $values = array_map(strval(...), array_keys($profile->frequent));
            sort($values, \SORT_NATURAL);

            return [$values, 'the data holds no others'];
        }

        return null;
    }

    /** @return array{string, string}|null least and greatest that a check allows; '' where it sets no such end */
    public function range(): ?array
    {
        foreach ($this->table->checks as $check) {
            $range = null === $check->column || $check->column === $this->column->name ? Checks::range($check->expression, $this->column->name) : null;
            if (null !== $range) {
                return $range;
            }
        }

        return null;
    }

    /** Texts of people about it would be written in English words, as far as its name shows. */
    public function speaks(): bool
    {
        return $this->name->known && [] !== $this->name->words;
    }

    /** @param list<string> $members */
    private static function saysYesAndNo(array $members): bool
    {
        $members = array_map(strtolower(...), $members);
        sort($members);

        return \in_array($members, [['n', 'y'], ['no', 'yes'], ['0', '1'], ['f', 't'], ['false', 'true']], true);
    }
}
