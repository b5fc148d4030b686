<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\Reconciled;

/** The rows in which two answers to one kept trial differ. */
final class Difference
{
    /** @return list<array{key: string, before: string, after: string}> */
    public static function of(KeptTrial $trial): array
    {
        $old = $trial->changed['answer'] ?? null;
        if (!\is_array($old) || null === $trial->answer) {
            return [];
        }
        $before = self::keyed($old);
        $after = self::keyed($trial->answer);
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
        foreach (\is_array($answer['rows'] ?? null) ? $answer['rows'] : [] as $row) {
            $key = $figures = [];
            foreach (\is_array($row) ? array_values($row) : [] as $i => $value) {
                $value = \is_string($value) ? $value : null;
                $measure = \is_array($columns[$i] ?? null) && true === ($columns[$i]['measure'] ?? null);
                if ($measure) {
                    $figures[] = $value;
                } else {
                    $key[] = $value ?? 'none';
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
