<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Source\SourceStore;
use Fasti\Text\SaidStore;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Contracts\Service\ResetInterface;

/**
 * Where two sources meet: a steward says from which field of another source one is filled, or fields that bear the same names
 * hold the same data.
 */
final class Origins implements ResetInterface
{
    public const PROPERTY = 'origin';
    /** Beside the text, the field that it named when it was written. */
    public const FIELD = 'originField';

    /** @var array<int, int>|null field → the one that it is filled from */
    private ?array $said = null;

    /** @param iterable<SameData> $compared */
    public function __construct(
        private readonly SourceStore $sources,
        private readonly EntryStore $entries,
        private readonly Fields $fields,
        private readonly SaidStore $texts,
        #[AutowireIterator(SameData::class)]
        private readonly iterable $compared,
    ) {
    }

    /** A worker lives on when texts change. */
    public function reset(): void
    {
        $this->said = null;
    }

    /** @return int|string the field that a text names, or a sentence that says what is wrong with the text */
    public function named(string $text): int|string
    {
        if (1 !== preg_match('/^\s*(.+?)\s*:\s*(\S.*?)\s*$/s', $text, $m)) {
            return 'Write the source, a colon, and the field: “fieldwork: station.name”.';
        }
        $source = $this->sources->named($m[1]);
        if (null === $source) {
            $known = implode(', ', array_column($this->sources->all(), 'name'));

            return \sprintf('There is no source “%s”. There are %s.', $m[1], $known);
        }
        $place = FieldPlace::parse($m[2]);
        if (null === $place) {
            return \sprintf('“%s” is not the name of a field. Write table.field or schema.table.field.', $m[2]);
        }
        $found = [];
        foreach ($this->entries->places($source) as $key => $entry) {
            $at = Place::ofKey($key);
            if ($at->name === $place->table && ('' === $place->schema || $at->schema === $place->schema)) {
                $field = $this->fields->ids([$entry])[$entry][$place->column] ?? null;
                if (null !== $field) {
                    $found[] = $field;
                }
            }
        }

        return match (\count($found)) {
            1 => $found[0],
            0 => \sprintf('%s has no field “%s”.', $m[1], $m[2]),
            default => \sprintf('“%s” could be a field of several schemas. Say the schema too.', $m[2]),
        };
    }

    /** @return array<int, int> field → the one that it is filled from, as stewards said */
    public function said(): array
    {
        if (null === $this->said) {
            $this->said = [];
            foreach ($this->texts->all('field', self::FIELD) as $field => $of) {
                $this->said[$field] = (int) $of;
            }
        }

        return $this->said;
    }

    /**
     * Fields of the same names in other sources that hold the same values, where nobody has said where they are filled from.
     * The source that has been documented for longer counts as the one that the other is filled from.
     *
     * @param list<int> $fields
     *
     * @return list<array{from: int, to: int}>
     */
    public function alike(array $fields): array
    {
        $said = $this->said();
        $pairs = $all = [];
        foreach ($this->fields->namesakes($fields) as $field => $others) {
            foreach ($others as $other) {
                $pairs[] = [$field, $other];
                array_push($all, $field, $other);
            }
        }
        $placed = $this->fields->placed($all);
        $found = [];
        foreach ($pairs as [$a, $b]) {
            if (isset($placed[$a], $placed[$b]) && $placed[$a]->source > $placed[$b]->source) {
                [$a, $b] = [$b, $a];
            }
            if (!isset($said[$b]) && ($said[$a] ?? null) !== $b && !$placed[$b]->isOfView() && $this->agree($a, $b)) {
                $found[$a.'/'.$b] = ['from' => $a, 'to' => $b];
            }
        }

        return array_values($found);
    }

    private function agree(int $a, int $b): bool
    {
        foreach ($this->compared as $compared) {
            if ($compared->agree($a, $b)) {
                return true;
            }
        }

        return false;
    }
}
