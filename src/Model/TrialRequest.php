<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\ConditionText;
use Fasti\Core\Model\Figure;
use Fasti\Core\Model\FigureText;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelNames;
use Fasti\Core\Model\Sorting;
use Fasti\Core\Model\Trial;
use Symfony\Component\HttpFoundation\InputBag;

/** A trial as an address or a form has it: m, b, w, o and n. */
final class TrialRequest
{
    /**
     * @param InputBag<string> $given
     *
     * @throws ModelError where a condition is not understood
     */
    public static function read(InputBag $given, ModelNames $names): Trial
    {
        $texts = static fn (string $name): array => array_values(
            array_filter($given->all($name), static fn (mixed $one): bool => \is_string($one) && '' !== trim($one)),
        );
        $measures = $figures = [];
        foreach ($texts('m') as $text) {
            if (null === $names->measure($text)) {
                $figures[] = (new FigureText($names))->read($text);
            } else {
                $measures[] = $text;
            }
        }
        $beside = array_map(static fn (Figure $one): string => $one->inWords(), $figures);
        $conditions = new ConditionText($names, $beside);
        $order = array_map(
            static fn (string $one): Sorting => str_starts_with($one, '-') ? new Sorting(substr($one, 1), true) : new Sorting($one),
            $texts('o'),
        );
        [$limit, $each, $others] = self::rows(trim($given->getString('n')));

        $where = array_map($conditions->read(...), $texts('w'));

        return new Trial($measures, $texts('b'), $where, $order, $limit, $figures, $each, $others, '' !== $given->getString('t'));
    }

    /**
     * How many rows: "5", "5 of each station", "5 and the others".
     *
     * @return array{?int, list<string>, bool}
     */
    private static function rows(string $text): array
    {
        if (1 !== preg_match('/^(?<n>\d{0,9})(?: rows?)?(?: of each (?<each>.+?))?(?<others>,? and the others)?$/iu', $text, $m)
            || '' === $m['n'] && '' !== $text) {
            throw new ModelError(\sprintf(
                '“%s” is no number of rows to show: it is a whole number of 1 or more, as “5”, “5 of each station” or “5 and the others”.',
                $text,
            ));
        }
        $each = array_map(trim(...), preg_split('/,| and /u', $m['each'] ?? '') ?: []);

        return [0 === (int) $m['n'] ? null : (int) $m['n'], array_values(array_filter($each, static fn (string $one): bool => '' !== $one)),
            '' !== ($m['others'] ?? '')];
    }

    /** @return array<string, mixed> for an address */
    public static function written(Trial $trial): array
    {
        return array_filter([
            'm' => $trial->shown(), 'b' => $trial->by, 'w' => array_map(ConditionText::of(...), $trial->where),
            'o' => array_map(static fn (Sorting $one): string => ($one->descending ? '-' : '').$one->what, $trial->order),
            'n' => null === $trial->limit ? null : self::limited($trial), 't' => $trial->subtotals ? '1' : null,
        ], static fn (mixed $value): bool => [] !== $value && null !== $value);
    }

    private static function limited(Trial $trial): string
    {
        return $trial->limit.([] === $trial->each ? '' : ' of each '.implode(', ', $trial->each)).($trial->others ? ' and the others' : '');
    }
}
