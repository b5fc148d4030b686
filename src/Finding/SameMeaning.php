<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Naming;
use Fasti\Register\Fields;

/** Fields that are unlike and are described word for word alike. */
final readonly class SameMeaning implements RegisterCheck
{
    private const LEAST = 15;

    public function __construct(private Fields $fields)
    {
    }

    public function name(): string
    {
        return 'same-meaning';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'One of the texts was probably copied, and is true of the other only by chance.';
    }

    public function mend(): string
    {
        return 'Say of each what is particular to it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'field').' that are unlike share a meaning word for word';
    }

    public function about(): array
    {
        return [];
    }

    public function of(): iterable
    {
        $by = [];
        foreach ($this->fields->sayings() as $field) {
            if (mb_strlen($field->meaning) >= self::LEAST) {
                $by[hash('xxh128', mb_strtolower($field->meaning))][] = [$field->id, $field->entry, $field->name, $field->type,
                    mb_strimwidth($field->meaning, 0, 80, '…')];
            }
        }
        foreach ($by as $of) {
            foreach (\count($of) < 2 ? [] : $of as [$id, $entry, $name, $type, $meaning]) {
                $unlike = array_filter($of, static fn (array $other): bool => self::unlike($name, $type, $other[2], $other[3]));
                if ([] !== $unlike) {
                    yield new Noticed($entry, $id, \sprintf('“%s” is said of %s too', $meaning, array_values($unlike)[0][2]), '', 'meaning');
                }
            }
        }
    }

    /** Another kind of value, or a name that shares no word. */
    private static function unlike(string $name, string $type, string $other, string $otherType): bool
    {
        $kind = static fn (string $type): string => (string) preg_replace('/[^a-z].*$/', '', mb_strtolower($type));

        return $name !== $other && ([] === array_intersect(Naming::words($name), Naming::words($other)) || $kind($type) !== $kind($otherType)
            && !str_ends_with($name, $other) && !str_ends_with($other, $name));
    }
}
