<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;

/** What a field is by itself: whether it looks like a reference at all. */
final class Standing
{
    public function __construct(private readonly Candidates $all)
    {
    }

    /**
     * Whether a table holds people: it is called after them, or its fields are theirs: first and last name, date of birth, address of mail.
     *
     * @param list<string> $words of its name, in the singular
     */
    public static function isOfPeople(Table $table, array $words): bool
    {
        $last = $words[\count($words) - 1] ?? '';
        $signs = 0;
        foreach ($table->columns as $column) {
            $signs += preg_match('/(?:first|last|full|given|family|sur|fore)_?name|birth|e_?mail|login|user_?name|password|gender/i', $column->name);
        }

        // What is merely tied to people has no names of theirs; an account that nobody can sign in to is one of money.
        return $signs >= 2 || NameWords::isPeople($last) || NameWords::isPerson($last) && ('member' === $last && 1 === \count($words)
            || self::has($table, NameWords::isAccount($last) ? '/mail|login|phone|passw|user/i' : '/name|mail|login|phone/i'));
    }

    private static function has(Table $table, string $pattern): bool
    {
        return \count($table->columns) < 3 || [] !== preg_grep($pattern, array_map(static fn (Column $column): string => $column->name, $table->columns));
    }

    /** @return array<string, float> what the field is in its own table */
    public function standing(int $i, string $column): array
    {
        return $this->all->standing[$i][$column] ??= $this->stand($i, $column);
    }

    /** @return array<string, float> */
    private function stand(int $i, string $name): array
    {
        $type = $this->all->types[$i][$name];
        $by = $this->ofKeys($i, $name) + $this->ofName($this->all->names->stripped($name, $i)) + $this->ofName($name);
        if (TypeFit::isSpecial($type)) {
            $by[Feature::SPECIAL] = 1.0;
        }
        if (TypeFamily::Text === $type->family && (null === $type->length && !$this->all->unmeasured() || $type->length > 120) && [] === $type->members) {
            $by[Feature::LONG_TEXT] = 1.0;
        }
        if ([] !== $type->members) {
            $by[Feature::MEMBERS] = 1.0;
        }
        if (TypeFamily::Whole !== $type->family && TypeFamily::Number === $type->family) {
            $by[Feature::NUMBER] = 1.0;
        }
        if (!isset($by[Feature::ENDING_SURE]) && !isset($by[Feature::ENDING_MAYBE]) && !isset($by[Feature::ENDING_RUN])) {
            if (TypeFamily::Whole === $type->family) {
                if (NameWords::isThing($name) || NameWords::isThing($this->all->names->stripped($name, $i))) {
                    unset($by[Feature::PLAIN]);
                }
                $by[isset($by[Feature::PLAIN]) ? Feature::PLAIN_WHOLE : Feature::WHOLE] = 1.0;
            } elseif (TypeFamily::Text === $type->family) {
                $by[Feature::WORDS] = 1.0;
            }
        }
        if (null !== $this->all->tables[$i]->column($name)?->generated) {
            $by[Feature::COMPUTED] = 1.0;
        }

        return $by;
    }

    /** @return array<string, float> which keys and indexes of its table it is of */
    private function ofKeys(int $i, string $name): array
    {
        $table = $this->all->tables[$i];
        $primary = $table->primaryKey->columns ?? [];
        $by = [];
        if ([$name] === $primary) {
            $by[true === $table->column($name)?->autoNumbered ? Feature::NUMBERED_KEY : Feature::OWN_KEY] = 1.0;
            // A key that is called after its own table begins there.
            $own = $this->all->names->answers($name, $i)[$i]->how ?? 99;
            if (NameMatch::EQUAL === $own) {
                $by[Feature::OWN_NAMED] = 1.0;
            }
        } elseif (\in_array($name, $primary, true)) {
            $by[Feature::KEY_PART] = 1.0;
        }
        foreach ([] === $primary ? $this->all->keys[$i] : [] as $key) {
            if ([$name] === $key->columns && JoinKey::LIKELY === $key->standing) {
                $by[Feature::OWN_KEY] = 1.0;
            }
        }
        foreach ($table->uniqueKeys as $key) {
            if ([$name] === $key->columns) {
                $by[Feature::OWN_UNIQUE] = 1.0;
            }
        }
        foreach ($table->indexes as $index) {
            if (isset($index->parts[0]) && $name === $index->parts[0]->column && !$index->unique) {
                $by[Feature::INDEX] = 1.0;
            }
        }

        return $by;
    }

    /** @return array<string, float> whether it is called as references are */
    private function ofName(string $name): array
    {
        $by = NameWords::isPlain($name) ? [Feature::PLAIN => 1.0] : [];
        $words = NameWords::of($name);
        while ([] !== $words && ctype_digit($words[\count($words) - 1])) {
            array_pop($words);
        }
        $last = $words[\count($words) - 1] ?? '';
        $sure = NameWords::isSureEnding($last) || isset($this->all->endings[$last]) || \count($words) > 1 && NameWords::isBefore($words[0]);
        if ($sure) {
            $by[Feature::ENDING_SURE] = 1.0;
        } elseif (NameWords::isKeyEnding($last)) {
            $by[Feature::ENDING_MAYBE] = 1.0;
        } elseif (1 === preg_match('/(?:id|key|no|nr|num|ref|code|oid)$/', strtolower($name))) {
            $by[Feature::ENDING_RUN] = 1.0;
        }

        return $by + self::ofAmounts($words, $sure);
    }

    /**
     * @param list<string> $words of a name
     *
     * @return array<string, float> whether it is called as what counts, says yes or no, or holds several
     */
    private static function ofAmounts(array $words, bool $key): array
    {
        $first = $words[0] ?? '';
        $last = $words[\count($words) - 1] ?? '';
        if (\count($words) > 1 && NameWords::isFlag($first)) {
            return [Feature::FLAG => 1.0];
        }
        if (\count($words) > 1 && (NameWords::isAmount($first) || NameWords::isAmount($last) && !$key)) {
            return [Feature::AMOUNT => 1.0];
        }

        return !$key && \strlen($last) > 3 && [$last] !== NameWords::singular([$last]) ? [Feature::PLURAL => 1.0] : [];
    }

    /** @return list<int> tables that a comment names */
    public function mentioned(string $comment): array
    {
        if ('' === trim($comment) || mb_strlen($comment) > 400) {
            return [];
        }
        $said = ' '.implode(' ', NameWords::singular(NameWords::of($comment))).' ';
        $found = [];
        foreach ($this->all->wordsOf as [$j, $phrase]) {
            if (str_contains($said, ' '.$phrase.' ')) {
                $found[] = $j;
            }
        }

        return \count($found) > 3 ? [] : $found;
    }
}
