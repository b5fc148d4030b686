<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineReader;
use Fasti\Design\Topic\DesignTopic;
use Fasti\Text\BadText;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/** The outline of a design. It is kept however broken it is. */
final readonly class DesignProperties implements Properties
{
    public const OUTLINE = 'outline';

    public function all(): iterable
    {
        yield new Property(DesignTopic::NAME, self::OUTLINE, most: 4000000, column: self::OUTLINE, check: self::check(...), inWords: self::inWords(...));
    }

    private static function check(string $value): void
    {
        $read = Outline::read($value);
        $last = [] === $read->faults ? null : $read->faults[\count($read->faults) - 1];
        if (null !== $last && str_starts_with($last->message, OutlineReader::BEYOND)) {
            throw new BadText(\sprintf('Line %s: %s', number_format($last->line), $last->message));
        }
    }

    private static function inWords(string $before, string $after): string
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
