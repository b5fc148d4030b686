<?php

declare(strict_types=1);

namespace Fasti\Design\Property;

use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineReader;
use Fasti\Text\BadText;
use Fasti\Text\Property;

/** The outline of a design. It is kept however broken it is. */
final class DesignOutline extends Property
{
    public const NAME = 'outline';

    public function topic(): string
    {
        return 'design';
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return 'outline';
    }

    public function column(): string
    {
        return self::NAME;
    }

    public function most(): int
    {
        return 4000000;
    }

    public function check(string $value, int $id): void
    {
        $read = Outline::read($value);
        $last = [] === $read->faults ? null : $read->faults[\count($read->faults) - 1];
        if (null !== $last && str_starts_with($last->message, OutlineReader::BEYOND)) {
            throw new BadText(\sprintf('Line %s: %s', number_format($last->line), $last->message));
        }
    }

    public function inWords(string $before, string $after): string
    {
        $was = Outline::read($before)->lines;
        $is = Outline::read($after)->lines;
        $new = array_values(array_diff($is, $was));
        $gone = array_values(array_diff($was, $is));
        $words = [];
        foreach (['wrote' => $new, 'took away' => $gone] as $verb => $lines) {
            $lines = array_values(array_filter(array_map(trim(...), $lines), static fn (string $line): bool => '' !== $line));
            $shown = array_map(static fn (string $line): string => '“'.mb_strimwidth($line, 0, 60, '…').'”', \array_slice($lines, 0, 3));
            if ([] !== $lines) {
                $words[] = $verb.' '.implode(', ', $shown).(\count($lines) > 3 ? ' and '.(\count($lines) - 3).' more' : '');
            }
        }

        return [] === $words ? 'changed the order of lines' : implode('; ', $words);
    }
}
