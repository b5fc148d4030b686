<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** Writes each line of an outline in its usual form. Comments, order and what is not understood stay as they are. */
final class Formatting
{
    public static function of(string $text): string
    {
        $outline = Outline::read($text);
        $lines = [];
        foreach ($outline->statements as $number => $statement) {
            array_push($lines, ...self::lines($outline, $number));
            unset($statement);
        }
        // Blocks stand apart by one blank line, and no more.
        $text = preg_replace('/\n{3,}/', "\n\n", implode("\n", array_map(rtrim(...), $lines))) ?? $text;

        return rtrim($text)."\n";
    }

    /** @return list<string> the lines of a statement in their usual form */
    public static function lines(Outline $outline, int $number): array
    {
        $statement = $outline->statements[$number];
        $said = \array_slice($outline->lines, $statement->from, $statement->to - $statement->from + 1);
        $written = self::written($outline, $statement);
        if (null !== $written) {
            return explode("\n", (null === $statement->in ? '' : '  ').$written);
        }
        if ('fault' === $statement->kind || \count($said) > 1 || $outline->isBroken($statement)) {
            return $said;
        }
        $bare = preg_replace('/(?<=\S)[ \t]+(?=[^"]*(?:"[^"]*"[^"]*)*$)/', ' ', trim($said[0] ?? '')) ?? trim($said[0] ?? '');

        return [('' === $bare || null === $statement->in ? '' : '  ').$bare];
    }

    private static function written(Outline $outline, Statement $statement): ?string
    {
        if ($outline->isBroken($statement)) {
            return null;
        }
        $object = $statement->object;
        if ('thing' === $statement->kind) {
            $thing = self::thingAt($outline->design, $statement->from + 1);

            return null === $thing ? null : OutlineWriter::thingHead($thing);
        }
        if ('join' === $statement->kind) {
            foreach ($outline->design->joins as $join) {
                if ($join->line === $statement->from + 1) {
                    return OutlineWriter::join($join)[0];
                }
            }

            return null;
        }

        return match (true) {
            $object instanceof Attribute => OutlineWriter::attribute($object),
            $object instanceof Identifier => OutlineWriter::identifier($object),
            $object instanceof Lookup => OutlineWriter::lookup($object),
            $object instanceof Always => OutlineWriter::always($object),
            $object instanceof Dependency => OutlineWriter::dependency($object),
            default => null,
        };
    }

    public static function thingAt(Design $design, int $line): ?Thing
    {
        foreach ($design->things as $thing) {
            if ($thing->line === $line) {
                return $thing;
            }
        }

        return null;
    }
}
