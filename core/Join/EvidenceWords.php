<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** What speaks for a candidate, in words, each with what it counts. */
final class EvidenceWords
{
    private const NAMES = [
        Feature::SHARING, Feature::COVERED, Feature::COVERS, Feature::SAME_MODULE, Feature::OWN_FIRST, Feature::ENDING_FITS, Feature::ENDING_OTHER,
        Feature::ENDING_SURE, Feature::ENDING_MAYBE, Feature::ENDING_RUN, Feature::ATTRIBUTE,
        Feature::PLAIN, Feature::KEY_EQUAL, Feature::KEY_STRIPPED, Feature::KEY_ENDS, Feature::SELF_ROLE, Feature::DOER, Feature::PEOPLE, Feature::USERS,
        Feature::MANY_PEOPLE, Feature::HUB,
        Feature::KEY_ELSEWHERE, Feature::COMPOSITE, Feature::WEAKEST, Feature::ALL_SURE, Feature::PLAIN_PART, Feature::UNNAMED, Feature::SELF,
    ];
    private const FOUND = [Feature::FOUND_ALL, Feature::FOUND_NEARLY, Feature::FOUND_MOST, Feature::FOUND_SOME, Feature::FOUND_NONE];

    public function __construct(private readonly Candidates $candidates, private readonly Chooser $chooser)
    {
    }

    /** @return list<Evidence> what counts most first */
    public function of(Candidate $candidate): array
    {
        $found = [];
        $names = $this->sum($candidate, self::NAMES);
        foreach ($candidate->features as $feature => $value) {
            if (str_starts_with($feature, Feature::HOW)) {
                $names += $this->chooser->counts($candidate, $feature);
            }
        }
        $found[] = new Evidence($this->named($candidate), $names);
        if (null !== $candidate->data && $candidate->data->values > 0) {
            $found[] = new Evidence(
                $candidate->data->inWords(), $this->sum($candidate, [...self::FOUND, Feature::USED]),
                0 === $candidate->data->found ? EvidenceKind::Structure : EvidenceKind::Found, $candidate->data->none,
            );
            $spread = $this->sum($candidate, [Feature::SPREAD, Feature::SMALL, Feature::TELLING, Feature::SAME_SET]);
            $words = match (true) {
                $candidate->has(Feature::SMALL) => 'its values are few and small, such as are found in any numbered key, which proves little',
                $candidate->has(Feature::SAME_SET) => 'it holds nearly all that the key lists, and nothing else',
                $candidate->has(Feature::SPREAD) => 'its values are drawn from the whole range of the key',
                ($candidate->features[Feature::TELLING] ?? 0) > 0.4 => 'its values are not such as are found there by chance',
                default => '',
            };
            if ('' !== $words) {
                $found[] = new Evidence($words, $spread);
            }
        } elseif ($candidate->has(Feature::NO_DATA)) {
            $found[] = new Evidence('it is empty in all rows that were looked at, so the data says nothing', 0.0);
        }
        foreach ($this->single($candidate) as $feature => $words) {
            if ($candidate->has($feature) && '' !== $words) {
                $kind = \in_array($feature, [Feature::VIEW, Feature::ROUTINE, Feature::QUERY], true) ? EvidenceKind::Used : EvidenceKind::Structure;
                $found[] = new Evidence($words, $this->chooser->counts($candidate, $feature), $kind);
            }
        }
        $found = array_values(array_filter($found, static fn (Evidence $one): bool => '' !== $one->words));
        usort($found, static fn (Evidence $a, Evidence $b): int => abs($b->weight) <=> abs($a->weight));

        return $found;
    }

    /** @param list<string> $features */
    private function sum(Candidate $candidate, array $features): float
    {
        return array_sum(array_map(fn (string $feature): float => $this->chooser->counts($candidate, $feature), $features));
    }

    private function named(Candidate $candidate): string
    {
        $table = $candidate->key->table->name;
        if (!$candidate->key->single()) {
            return \sprintf($candidate->has(Feature::ALL_SURE) ? 'its fields are called as those of the key of %s'
                : 'its fields answer to those of the key of %s', $table);
        }
        $by = self::matched($candidate, $table);
        $more = match (true) {
            $candidate->has(Feature::TYPE_NAMES) => \sprintf('its type is one of rows of %s', $table),
            $candidate->has(Feature::KEY_EQUAL) => 'called as the key is',
            $candidate->has(Feature::KEY_STRIPPED) => \sprintf('called as the key %s, without what the fields of each table begin with',
                implode(', ', $candidate->key->columns)),
            $candidate->has(Feature::TABLE_KEY) => 'called as the table and its key are',
            $candidate->has(Feature::KEY_BEGINS) || $candidate->has(Feature::KEY_AROUND) => \sprintf('the name of the key, %s, stands in it with a role',
                implode(', ', $candidate->key->columns)),
            $candidate->has(Feature::KEY_ENDS) && '' === $by => \sprintf('its name ends in that of the key, %s', implode(', ', $candidate->key->columns)),
            $candidate->has(Feature::SELF_ROLE) => 'its name speaks of another row of the same table',
            $candidate->has(Feature::DOER) && '' === $by => \sprintf('its name speaks of somebody, and %s holds people', $table),
            default => '',
        };

        return implode(', ', array_filter([$by, $more])) ?: 'its name does not say where it leads';
    }

    private static function matched(Candidate $candidate, string $table): string
    {
        $role = implode(' ', $candidate->match->role ?? []);

        return match ($candidate->match->how ?? 0) {
            NameMatch::EQUAL => \sprintf('named after %s', $table),
            NameMatch::BY_KEY => \sprintf('named as the key of %s names it', $table),
            NameMatch::ROLE, NameMatch::ROLE_AFTER, NameMatch::INSIDE, NameMatch::ROLE_BY_KEY => \sprintf('named after %s, in the role “%s”', $table, $role),
            NameMatch::SHORT, NameMatch::INITIALS => \sprintf('a short form of %s', $table),
            NameMatch::ROLE_SHORT => \sprintf('a short form of %s, in the role “%s”', $table, $role),
            NameMatch::SORT => \sprintf('named after %s, but for the word for its sort', $table),
            NameMatch::TAIL, NameMatch::HEAD, NameMatch::SHORT_TAIL, NameMatch::ROLE_TAIL => \sprintf('named after a part of the name of %s', $table),
            NameMatch::SYNONYM => \sprintf('its name is another word for %s', $table),
            NameMatch::TOLD => \sprintf('the comment on %s has its name', $table),
            NameMatch::ALIAS, NameMatch::ALIAS_INSIDE => \sprintf('it has the signs with which the fields of %s begin', $table),
            default => '',
        };
    }

    /** @return array<string, string> */
    private function single(Candidate $candidate): array
    {
        $name = implode(', ', $candidate->columns);
        $types = 1 === \count($candidate->columns)
            ? \sprintf('%s, %s', $this->type($candidate->from, $candidate->columns[0]), $this->type($candidate->to, $candidate->key->columns[0])) : '';

        return [
            Feature::VIEW => 'joined so in '.implode(', ', array_unique($candidate->quoted)),
            Feature::ROUTINE => 'compared so in '.implode(', ', array_unique($candidate->quoted)),
            Feature::QUERY => 'joined so in the query '.implode(', ', array_unique($candidate->quoted)),
            Feature::COMMENT => \sprintf('the database comment names %s', $candidate->key->table->name),
            Feature::HABIT => 'fields of this name lead there in other tables',
            Feature::INDEX => 'an index begins with it',
            Feature::TYPE_SIZE => "types differ in size: $types",
            Feature::TYPE_WIDTH => "types differ in size or sign: $types",
            Feature::TYPE_LOOSE => "types differ: $types; compared by their texts",
            Feature::SPECIAL => 'its type is one for numbers of rows',
            Feature::MEMBERS => 'it holds one of a few words that its type lists',
            Feature::LONG_TEXT => 'it is a long text',
            Feature::TIME => 'it is a date or time',
            Feature::COMPUTED => 'it is computed',
            Feature::KEY_UNIQUE => 'it leads to a unique key, not to the primary key',
            Feature::KEY_OTHER => 'it leads to a unique key of another name, not to the primary key',
            Feature::ROOT => \sprintf('of all tables with such a key it is %s that the others are about', $candidate->key->table->name),
            Feature::SAME_ROOT => 'it is called as that key is',
            Feature::NOT_ROOT => 'the key is that of a part of something that has the same key',
            Feature::SUBKEY => \sprintf('it is the key of its own table, which has it from %s', $candidate->key->table->name),
            Feature::LEADS_ON => 'the key leads on to another table',
            Feature::LOOKUP => \sprintf('%s lists nothing but what a field of this name may hold', $candidate->key->table->name),
            Feature::PEOPLE_ON => \sprintf('the people of %s are led on to those of another table', $candidate->key->table->name),
            Feature::VIA => 'the key that it is called after leads on to here',
            Feature::NEAR => 'the names of both tables begin alike',
            Feature::OWN_BEGINS => \sprintf('the name of its own table begins with %s', $candidate->key->table->name),
            Feature::COMPOSED => \sprintf('%s is called as its own table and it are together', $candidate->key->table->name),
            Feature::SAME_END => 'the names of both tables end alike',
            Feature::SHARED => 'the names of both tables share words',
            Feature::LESS_NAMED => 'more of its name is that of another table',
            Feature::SAME_ROLE => 'all its fields have the same role before the names of the key\'s',
            Feature::FLAG => 'it is called as what says yes or no',
            Feature::AMOUNT => 'it is called as what says how many or how much',
            Feature::PLURAL => 'it is called as what holds several',
            Feature::LINK => \sprintf('%s ties other tables together, by its name', $candidate->key->table->name),
            Feature::LOOSE_PART => 'one of its fields is a text of its own',
            Feature::BARE => ($candidate->features[Feature::BARE] ?? 0.0) > 0.0 ? 'names of references do not end as keys do here'
                : 'names of references end as keys do here, and this one does not',
            Feature::KEY_LIKELY => \sprintf('%s declares no key', $candidate->key->table->name),
            Feature::OWN_KEY => 'it is the key of its own table as well',
            Feature::OWN_NAMED => 'it is the key of its own table, and called after it',
            Feature::SIBLING => \sprintf('%s has a field of this name too, which is not its key', $candidate->key->table->name),
            Feature::NUMBERED_KEY => 'the database numbers it',
            Feature::KEY_PART => 'it is part of the key of its table',
            Feature::COPY => \sprintf('%s looks like a copy or a passing table', $candidate->key->table->name),
            Feature::OTHER_SCHEMA => 'it leads to another schema',
            Feature::LINK_KEY => \sprintf('%s links other tables; this may lead to those instead', $candidate->key->table->name),
            Feature::SAME_SHAPE => 'both tables have nearly the same fields: one may be a copy of the other',
            Feature::SAME_KEY => 'both ends have the same key',
            Feature::BOTH_WAYS => \sprintf('%s leads here by the same fields, which is more likely', $candidate->key->table->name),
            Feature::TWICE => 'another field of the table leads there already',
            Feature::IMPLIED => \sprintf('%s is part of a join that leads there already', $name),
        ];
    }

    private function type(int $table, string $column): string
    {
        return $this->candidates->tables[$table]->column($column)->type ?? '';
    }
}
