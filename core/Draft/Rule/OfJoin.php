<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\FieldName;
use Fasti\Core\Draft\Lead;
use Fasti\Core\Draft\Rule;

/** The meaning of a field that leads to another entry: what it leads to, in which role, by the verb of the join. */
final class OfJoin implements Rule
{
    public function name(): string
    {
        return 'of-join';
    }

    public function of(Field $field): iterable
    {
        $lead = $field->lead();
        if (null === $lead || 1 !== \count($lead->pairs)) {
            return;
        }
        $target = $field->material->noun($lead->to);
        $empty = $field->isSometimesEmpty() && $lead->to !== $field->entry ? ' Empty where there is none.' : '';
        yield new Draft('meaning', English::sentence(self::sentence($field, $lead, $target)).$empty, 0.55 + 0.3 * $lead->certainty, [
            $lead->certainty >= 1.0 ? "the join to $target" : \sprintf('a join to %s that is likely', $target),
            ...'' === $lead->verb ? [] : ['its verb'],
        ]);
    }

    private static function sentence(Field $field, Lead $lead, string $target): string
    {
        $noun = $field->noun();
        $words = $field->name->without($noun);
        $role = \array_slice($words, 0, max(0, \count($words) - self::tail($words, $field, $lead->to)));
        // `gpgc_id`, where all fields of the other begin with gpgc, and a mere `id` have no role.
        if (['ID'] === $role || [rtrim(strtolower(FieldName::before($field->material->tables[$lead->to])), '_')] === $role) {
            $role = [];
        }
        $last = $role[\count($role) - 1] ?? '';
        $other = self::other($target, $lead->to === $field->entry);

        return match (true) {
            'by' === $last && \count($role) > 1 => \sprintf('The %s by whom the %s was %s', $target, $noun, implode(' ', \array_slice($role, 0, -1))),
            \in_array($last, English::PREPOSITIONS, true)
                && English::isPresent($role[0]) => \sprintf('The %s that the %s %s', $other, $noun, implode(' ', $role)),
            '' !== $lead->verb
                && !\in_array($lead->verb, ['belongs to', 'is of', 'is at'], true) => \sprintf('The %s that the %s %s', $other, $noun, $lead->verb),
            default => self::byRole($role, $words, $field, $lead->to, $target)
                ?? \sprintf('The %s that the %s %s', $other, $noun, 'belongs to' === $lead->verb ? 'belongs to' : 'refers to'),
        };
    }

    /**
     * @param list<string> $role
     * @param list<string> $words
     */
    private static function byRole(array $role, array $words, Field $field, int $to, string $target): ?string
    {
        if ([] === $role) {
            return null;
        }
        $noun = $field->noun();
        $called = implode(' ', $role);

        return match (true) {
            $to === $field->entry => \sprintf('The %s of the %s: itself %s', $called, $noun, self::a($target)),
            English::isParticiple($role[\count($role) - 1]) => \sprintf('The %s of the %s', implode(' ', [...self::deed($role, $target), $target]), $noun),
            $role !== $words && [] !== \array_slice($words, \count($role)) => \sprintf('The %s of the %s', implode(' ', $words), $noun),
            !self::says($role, $target, $field, $to) => \sprintf('The %s of the %s: %s', $called, $noun, self::a($target)),
            default => null,
        };
    }

    /**
     * A deed without what it is done to: of `file_defined` for a file, "defined".
     *
     * @param list<string> $role
     *
     * @return list<string>
     */
    private static function deed(array $role, string $target): array
    {
        return array_values(array_diff($role, explode(' ', $target), ['ID', 'key', 'code', 'number']));
    }

    /**
     * How many words at the end name the entry that it leads to.
     *
     * @param list<string> $words
     */
    private static function tail(array $words, Field $field, int $to): int
    {
        $target = $field->material->nameOf($to)->words;
        for ($n = min(\count($words), \count($target)); $n > 0; --$n) {
            if (\array_slice($words, -$n) === \array_slice($target, -$n)) {
                return $n;
            }
        }

        return 0;
    }

    /** @param list<string> $role */
    private static function says(array $role, string $target, Field $field, int $to): bool
    {
        return implode(' ', $role) === $target || [] === array_diff($role, $field->material->nameOf($to)->words);
    }

    private static function a(string $noun): string
    {
        return \Fasti\Core\Wording\Noun::withArticle($noun);
    }

    private static function other(string $target, bool $self): string
    {
        return $self ? 'other '.$target : $target;
    }
}
