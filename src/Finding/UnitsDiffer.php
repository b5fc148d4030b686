<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Units;
use Fasti\Register\Fields;
use Fasti\Register\Joins;
use Fasti\Text\SaidStore;

/** Fields of one name, or at both ends of a join, in different units. */
final readonly class UnitsDiffer implements RegisterCheck
{
    public function __construct(private Fields $fields, private Joins $joins, private SaidStore $said)
    {
    }

    public function name(): string
    {
        return 'units-differ';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'What compares or adds them is wrong by a factor that nobody sees.';
    }

    public function mend(): string
    {
        return 'Bring them to one unit where they are compared, or correct the unit that is wrong.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'field').' are in other units than what they are compared with';
    }

    public function about(): array
    {
        return ['unit'];
    }

    public function of(): iterable
    {
        $units = array_map(static fn (string $unit): string => Units::named($unit)->symbol ?? mb_strtolower(trim($unit)), $this->said->all('field', 'unit'));
        $placed = $this->fields->placed(array_keys($units));
        $by = [];
        foreach ($placed as $id => $at) {
            if (!$at->gone) {
                $by[mb_strtolower($at->place->column)][$units[$id]][] = $id;
            }
        }
        $pairs = $this->joins->paired(array_keys($units));
        foreach ($by as $of) {
            foreach (\count($of) < 2 ? [] : $of as $unit => $ids) {
                $other = array_values(array_filter($of, static fn (string|int $one): bool => (string) $one !== (string) $unit, \ARRAY_FILTER_USE_KEY))[0][0];
                foreach ($ids as $id) {
                    $pairs[] = [$id, $other];
                }
            }
        }
        foreach ($pairs as [$one, $other]) {
            if (isset($placed[$one], $placed[$other]) && $units[$one] !== $units[$other]) {
                $there = $placed[$other]->place;
                yield new Noticed($placed[$one]->entry, $one, \sprintf('It is in %s; %s.%s is in %s', $units[$one], $there->table, $there->column,
                    $units[$other]), '', 'unit', $units[$one].' '.$units[$other]);
            }
        }
    }
}
