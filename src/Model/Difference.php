<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\Reconciled;

/** The rows in which two answers to one kept trial differ, of those that are kept. */
final class Difference
{
    /** @return list<array{key: string, before: string, after: string}> */
    public static function of(KeptTrial $trial): array
    {
        $old = $trial->changed['answer'] ?? null;

        return self::between(\is_array($old) ? $old : null, $trial->answer);
    }

    /**
     * @param array<mixed>|null $old as KeptTrial::$answer has it
     * @param array<mixed>|null $new
     *
     * @return list<array{key: string, before: string, after: string}>
     */
    public static function between(?array $old, ?array $new): array
    {
        if (null === $old || null === $new) {
            return [];
        }
        $before = self::keyed($old);
        $after = self::keyed($new);
        $rows = [];
        foreach ($before + $after as $key => $_) {
            $a = $before[$key] ?? null;
            $b = $after[$key] ?? null;
            if (null === $a || null === $b || !self::same($a, $b)) {
                $rows[] = ['key' => (string) $key, 'before' => self::said($a), 'after' => self::said($b)];
            }
        }

        return $rows;
    }

    /**
     * @param array<mixed> $answer
     *
     * @return array<string, list<?string>> what a row is split by → its figures
     */
    private static function keyed(array $answer): array
    {
        $columns = \is_array($answer['columns'] ?? null) ? $answer['columns'] : [];
        $keyed = [];
        $shown = \is_array($answer['shown'] ?? null) ? $answer['shown'] : [];
        foreach (\is_array($answer['rows'] ?? null) ? $answer['rows'] : [] as $n => $row) {
            $key = $figures = [];
            $labels = \is_array($shown[$n] ?? null) ? $shown[$n] : [];
            foreach (\is_array($row) ? array_values($row) : [] as $i => $value) {
                $value = \is_string($value) ? $value : null;
                $column = \is_array($columns[$i] ?? null) ? $columns[$i] : [];
                if (true === ($column['measure'] ?? null)) {
                    $figures[] = $value;
                } else {
                    $label = \is_string($labels[$i] ?? null) && true === ($column['coded'] ?? null) ? $labels[$i] : $value;
                    $key[] = $label === $value || null === $value ? $value ?? 'none' : "$label – $value";
                }
            }
            $keyed[[] === $key ? 'all' : implode(', ', $key)] = $figures;
        }

        return $keyed;
    }

    /**
     * @param list<?string> $a
     * @param list<?string> $b
     */
    private static function same(array $a, array $b): bool
    {
        foreach ($a as $i => $value) {
            if (!\array_key_exists($i, $b) || !Reconciled::same($value, $b[$i])) {
                return false;
            }
        }

        return \count($a) === \count($b);
    }

    /** @param list<?string>|null $figures */
    private static function said(?array $figures): string
    {
        return null === $figures ? 'not there' : implode(
            ' · ',
            array_map(static fn (?string $one): string => null === $one ? 'none' : AnswerView::formatted($one, ''), $figures),
        );
    }
}
