<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Finding\Severity;
use Fasti\Finding\Noticed;
use Fasti\Finding\RegisterCheck;
use Fasti\Register\EntryStore;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;

/** A verb that is the name of an entry, or that two joins between the same entries share. */
final readonly class UnclearVerbs implements RegisterCheck
{
    public function __construct(private Joins $joins, private EntryStore $entries)
    {
    }

    public function name(): string
    {
        return 'unclear-verb';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Who reads the sentence cannot tell which join, or which entry, is meant.';
    }

    public function mend(): string
    {
        return 'Write verbs that tell the joins apart.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return \sprintf('“%s” does not tell joins apart', $group);
    }

    public function about(): array
    {
        return ['verb', 'verbBack', 'businessName'];
    }

    public function of(): iterable
    {
        $said = $names = [];
        $joins = array_values(array_filter($this->joins->everywhere(), static fn (JoinView $join): bool => '' !== $join->verb || '' !== $join->verbBack));
        foreach ([] === $joins ? [] : $this->entries->namesInSmallLetters() as $name) {
            $names[$name] = true;
        }
        foreach ($joins as $join) {
            foreach (array_unique(array_filter([$join->verb, $join->verbBack])) as $verb) {
                if (isset($names[mb_strtolower($verb)])) {
                    yield new Noticed($join->fromId, null, \sprintf('The verb “%s” is the name of an entry as well', $verb), $verb);
                }
            }
            if ('' !== $join->verb) {
                $said[$join->fromId.' '.$join->toId.' '.mb_strtolower($join->verb)][] = $join;
            }
        }
        foreach ($said as $of) {
            if (\count($of) > 1) {
                yield new Noticed($of[0]->fromId, null, \sprintf(
                    '%s joins to %s, by %s, have the verb “%s”', \count($of), $of[0]->toTitle,
                    implode(' and ', array_map(static fn (JoinView $join): string => $join->columns(), $of)), $of[0]->verb,
                ), $of[0]->verb);
            }
        }
    }
}
