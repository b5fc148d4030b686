<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\ConditionText;
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
        $conditions = new ConditionText($names);
        $order = array_map(
            static fn (string $one): Sorting => str_starts_with($one, '-') ? new Sorting(substr($one, 1), true) : new Sorting($one),
            $texts('o'),
        );
        $limit = trim($given->getString('n'));
        if (1 !== preg_match('/^\d{0,9}$/', $limit)) {
            throw new ModelError(\sprintf('“%s” is no number of rows to show: it is a whole number of 1 or more.', $limit));
        }

        return new Trial($texts('m'), $texts('b'), array_map($conditions->read(...), $texts('w')), $order, 0 === (int) $limit ? null : (int) $limit);
    }

    /** @return array<string, mixed> for an address */
    public static function written(Trial $trial): array
    {
        return array_filter([
            'm' => $trial->measures, 'b' => $trial->by, 'w' => array_map(ConditionText::of(...), $trial->where),
            'o' => array_map(static fn (Sorting $one): string => ($one->descending ? '-' : '').$one->what, $trial->order), 'n' => $trial->limit,
        ], static fn (mixed $value): bool => [] !== $value && null !== $value);
    }
}
