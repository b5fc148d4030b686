<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Wording\Naming;

/** Makes drafts by all rules, puts those that say the same together, and leaves out what would only repeat a name. */
final readonly class Drafts
{
    /** What is less likely to be right is not proposed. */
    public const LEAST = 0.3;
    private const STOP = ['the', 'a', 'an', 'of', 'its', 'this', 'is', 'are', 'in', 'for', 'to', 'it', 'that', 'row', 'field', 'value', 'and', 'with', 'which',
        'on', 'at', 'by', 'his', 'her', 'their'];

    /** @var list<Rule> */
    private array $rules;
    /** @var list<EntryRule> */
    private array $entryRules;

    /** @param array<string, float> $weights rule → what its confidence is multiplied by: those that are often dismissed sink */
    public function __construct(private array $weights = [])
    {
        $this->rules = [
            new Rule\FromComment(), new Rule\FromLikeField(), new Rule\FromOrigin(), new Rule\NameInWords(), new Rule\OfJoin(), new Rule\OfKey(),
            new Rule\OfKindBeside(), new Rule\OfTime(), new Rule\OfFlag(), new Rule\OfValues(), new Rule\OfMeasure(), new Rule\OfDoer(), new Rule\OfPlace(),
            new Rule\OfLimit(), new Rule\OfSpan(), new Rule\WellKnown(), new Rule\FromTerm(), new Rule\UnitInName(), new Rule\UnitInComment(),
            new Rule\AllowedValues(), new Rule\PersonalByLook(),
        ];
        $this->entryRules = [new Rule\EntryNameInWords(), new Rule\EntryFromComment(), new Rule\OfLink(), new Rule\GrainOfKey()];
    }

    /** @return list<string> names of all rules */
    public function rules(): array
    {
        return array_map(static fn (Rule|EntryRule $rule): string => $rule->name(), [...$this->rules, ...$this->entryRules]);
    }

    /**
     * @return array<string, non-empty-list<Draft>> property → drafts, the surest first; what is written already gets none
     */
    public function ofField(Field $field): array
    {
        $found = [];
        foreach ($this->rules as $rule) {
            foreach ($rule->of($field) as $draft) {
                $found[] = $this->weighed($draft, $rule->name());
            }
        }
        $own = [...$field->name->words, ...$field->name->raw, ...explode(' ', $field->noun())];

        return self::chosen($found, $field->said, $own);
    }

    /** @return array<string, non-empty-list<Draft>> */
    public function ofEntry(Entry $entry): array
    {
        $found = [];
        foreach ($this->entryRules as $rule) {
            foreach ($rule->of($entry) as $draft) {
                $found[] = $this->weighed($draft, $rule->name());
            }
        }

        return self::chosen($found, $entry->said, explode(' ', $entry->noun()));
    }

    private function weighed(Draft $draft, string $rule): Draft
    {
        $weight = $this->weights[$rule] ?? 1.0;

        return 1.0 === $weight ? $draft->by($rule) : $draft->by($rule)->with($draft->confidence * $weight);
    }

    /**
     * @param list<Draft>  $found
     * @param list<string> $own   words of the name and of the row
     *
     * @return array<string, non-empty-list<Draft>>
     */
    private static function chosen(array $found, Said $said, array $own): array
    {
        $by = [];
        foreach ($found as $draft) {
            if ('' !== $said->of($draft->property) || '' === trim($draft->text) || 'meaning' === $draft->property && self::repeats($draft->text, $own)) {
                continue;
            }
            $key = mb_strtolower(rtrim($draft->text, '. '));
            $known = $by[$draft->property][$key] ?? null;
            $by[$draft->property][$key] = null === $known ? $draft : self::both($known, $draft);
        }
        $chosen = [];
        foreach ($by as $property => $drafts) {
            $drafts = array_values(array_filter($drafts, static fn (Draft $draft): bool => $draft->confidence >= self::LEAST));
            usort($drafts, static fn (Draft $a, Draft $b): int => $b->confidence <=> $a->confidence);
            if ([] !== $drafts) {
                $chosen[$property] = $drafts;
            }
        }

        return $chosen;
    }

    private static function both(Draft $one, Draft $other): Draft
    {
        [$first, $second] = $one->confidence >= $other->confidence ? [$one, $other] : [$other, $one];
        // Reasons share causes, so that two count for less than two that were independent.
        $confidence = 1 - (1 - $first->confidence) * (1 - 0.4 * $second->confidence);

        return new Draft(
            $first->property, $first->text, min(0.97, $confidence), array_values(array_unique([...$first->because, ...$second->because])), $first->rule,
        );
    }

    /** @param list<string> $own */
    private static function repeats(string $text, array $own): bool
    {
        $said = array_diff(Naming::words($text), self::STOP, array_map(mb_strtolower(...), $own));

        return [] === $said;
    }
}
