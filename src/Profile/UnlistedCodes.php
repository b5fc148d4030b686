<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Drift\Doubt;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\DossierCheck;
use Fasti\Finding\Noticed;
use Fasti\Register\Dossier;
use Fasti\Register\FieldView;

/** A text lists codes, and the data has one that it does not list. */
final class UnlistedCodes implements DossierCheck
{
    private const MOST_VALUES = 60;
    private const SHOWN = 8;

    public function name(): string
    {
        return 'unlisted-codes';
    }

    public function severity(): Severity
    {
        return Severity::Fault;
    }

    public function why(): string
    {
        return 'Whoever reads the list takes it for all there is.';
    }

    public function mend(): string
    {
        return 'Add what is missing, or make a code list of it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'text').' list codes, and the data has others besides';
    }

    public function about(): array
    {
        return ['meaning', 'personal'];
    }

    public function of(Dossier $dossier): iterable
    {
        $profiled = $dossier->part(Profiled::class);
        if (null === $profiled) {
            return;
        }
        foreach ($dossier->entry->presentFields() as $field) {
            $unsaid = self::unsaid($field, $profiled);
            if ([] !== $unsaid) {
                yield new Noticed(
                    $dossier->entry->id,
                    $field->id,
                    \sprintf('The text lists codes, and the data has %s besides.', implode(', ', \array_slice($unsaid, 0, self::SHOWN))),
                    '',
                    'meaning',
                    implode(' ', $unsaid),
                );
            }
        }
    }

    /** @return list<string> */
    private static function unsaid(FieldView $field, Profiled $profiled): array
    {
        $known = $profiled->field($field->name);
        if (null === $known || '' === $field->meaning || '' !== $known->personal || null === $known->distinct || $known->distinct > self::MOST_VALUES) {
            return [];
        }
        $codes = Doubt::codes($field->meaning);
        $values = array_map(strval(...), array_keys($known->frequent));
        if ([] === array_intersect($codes, $values)) {
            return [];
        }

        return array_values(array_filter(
            $values,
            static fn (string $value): bool => !\in_array($value, $codes, true) && !Doubt::mentions($field->meaning, $value),
        ));
    }
}
