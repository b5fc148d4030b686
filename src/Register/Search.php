<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Search\Trigrams;
use Fasti\Core\Search\Typo;
use Fasti\Core\Wording\Naming;
use Fasti\Source\KnownSource;
use Fasti\Source\SourceStore;
use Fasti\Support\Row;

/**
 * Finds entries and fields by any part of an identifier in any naming style, by business name, and by what is written
 * about them. Where no identifier matches, those within a slip or two of it are offered.
 */
final readonly class Search
{
    private const EACH = 12;
    /** Identifiers looked at; more would only fill a list that nobody reads to its end. */
    private const IDENTIFIERS = 300;
    /** Rows of texts that are gathered at the most, and rows among which frequent words are looked for first. */
    private const WRITTEN = 24;
    private const LOOKED_AT = 800;

    public function __construct(private Connection $db, private SourceStore $sources)
    {
    }

    /** @return list<int> entries that words may mean, the best first */
    public function entriesFor(string $words): array
    {
        return array_map(static fn (array $row): int => Row::int($row, 'id'), $this->find($words)['entries']);
    }

    /**
     * @return array{entries: list<array<string, mixed>>, fields: list<array<string, mixed>>, texts: list<array<string, mixed>>, meant: list<string>}
     *         `meant` holds the identifiers that were taken for what was meant, when the words as typed match none
     */
    public function find(string $query): array
    {
        $words = Naming::words($query);
        $folded = Naming::folded($query);
        if ('' === $folded) {
            return ['entries' => [], 'fields' => [], 'texts' => [], 'meant' => []];
        }
        $ids = $this->identifiers($words, $folded);
        $meant = [];
        if ([] === $ids) {
            $ids = $this->nearly($folded);
            $meant = array_values($ids);
            $ids = array_keys($ids);
        }
        $named = $this->named($words);

        return [
            'entries' => self::cut([...$this->entries($ids, $folded), ...$named['entries']]),
            'fields' => self::cut([...$this->fields($ids), ...$named['fields']]),
            'texts' => $named['texts'],
            'meant' => $meant,
        ];
    }

    /**
     * @param list<string> $words
     *
     * @return list<int> the best first: whole, then beginning, then anywhere
     */
    private function identifiers(array $words, string $folded): array
    {
        $where = implode(' AND ', array_fill(0, max(1, \count($words)), 'folded LIKE ?'));
        $likes = array_map(static fn (string $word): string => '%'.addcslashes($word, '%_\\').'%', [] === $words ? [$folded] : $words);
        $ids = $this->db->fetchFirstColumn(
            "SELECT id FROM identifier WHERE $where ORDER BY folded = ? DESC, folded LIKE ? DESC, CHAR_LENGTH(folded), folded LIMIT ".self::IDENTIFIERS,
            [...$likes, $folded, addcslashes($folded, '%_\\').'%'],
        );

        return array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $ids);
    }

    /** @return array<int, string> identifiers within the slips that their length forgives, the nearest first */
    private function nearly(string $folded): array
    {
        $most = Typo::allowance(mb_strlen($folded));
        if (0 === $most) {
            return [];
        }
        $grams = Trigrams::of($folded);
        // One slip spoils three windows at the most.
        $least = max(1, \count($grams) - 3 * $most - 1);
        $rows = $this->db->fetchAllAssociative('SELECT i.id, i.folded FROM (SELECT identifier_id, COUNT(*) AS shared FROM identifier_gram WHERE gram IN '
            .'(?) GROUP BY identifier_id HAVING shared >= ? ORDER BY shared DESC LIMIT 1000) k JOIN identifier i ON i.id = k.identifier_id WHERE '
            .'CHAR_LENGTH(i.folded) BETWEEN ? AND ?',
            [$grams, $least, mb_strlen($folded) - $most, mb_strlen($folded) + $most], [ArrayParameterType::STRING]);
        $found = [];
        foreach ($rows as $row) {
            $distance = Typo::distance($folded, Row::text($row, 'folded'), $most);
            if (null !== $distance) {
                $found[] = [$distance, Row::int($row, 'id'), Row::text($row, 'folded')];
            }
        }
        sort($found);

        return array_column(\array_slice($found, 0, 8), 2, 1);
    }

    /**
     * @param list<int> $ids
     *
     * @return list<array<string, mixed>>
     */
    private function entries(array $ids, string $folded): array
    {
        if ([] === $ids) {
            return [];
        }

        $sources = $this->sources->all();

        return array_map(static fn (array $row): array => self::entry($row, $sources), $this->db->fetchAllAssociative(
            'SELECT e.id, e.source_id, e.schema_name, e.name, e.business_name, e.grain, e.meaning FROM entry e JOIN identifier i ON i.id = e.identifier_id
             WHERE e.identifier_id IN (?) AND e.gone_at IS NULL ORDER BY i.folded = ? DESC,
             CHAR_LENGTH(e.name), e.name LIMIT '.self::EACH, [$ids, $folded], [ArrayParameterType::INTEGER]));
    }

    /**
     * @param list<int> $ids
     *
     * @return list<array<string, mixed>>
     */
    private function fields(array $ids): array
    {
        $found = [];
        // The identifiers come best first. The first few are asked for one by one, which needs no sorting however frequent
        // they are; the rest a portion at a time.
        foreach ([...array_chunk(\array_slice($ids, 0, 6), 1), ...array_chunk(\array_slice($ids, 6), 25)] as $chunk) {
            array_push($found, ...array_map(self::field(...), $this->db->fetchAllAssociative(
                'SELECT f.id, f.name, f.business_name, f.meaning, e.id AS entry, e.schema_name, e.name AS entry_name, e.business_name AS entry_title
                    FROM field f JOIN entry e ON e.id = f.entry_id
                 WHERE f.identifier_id IN (?) AND f.gone_at IS NULL
                 AND e.gone_at IS NULL '.(1 === \count($chunk) ? '' : 'ORDER BY FIELD(f.identifier_id, '.implode(', ', $chunk).'),
                     f.id ').'LIMIT '.self::EACH, [$chunk], [ArrayParameterType::INTEGER])));
            if (\count($found) >= self::EACH) {
                break;
            }
        }

        return $found;
    }

    /**
     * @param list<string> $words
     *
     * @return array{entries: list<array<string, mixed>>, fields: list<array<string, mixed>>, texts: list<array<string, mixed>>}
     */
    private function named(array $words): array
    {
        $terms = array_values(array_filter($words, static fn (string $word): bool => mb_strlen($word) > 1));
        if ([] === $terms) {
            return ['entries' => [], 'fields' => [], 'texts' => []];
        }
        $entries = $this->written(
            'entry',
            'e.id, e.source_id, e.schema_name, e.name, e.business_name, e.grain, e.meaning',
            '',
            ['business_name', 'grain', 'meaning'],
            $terms,
        );
        $fields = $this->written(
            'field', 'e.id, e.name, e.business_name, e.meaning, x.id AS entry, x.schema_name, x.name AS entry_name, x.business_name AS entry_title',
            'JOIN entry x ON x.id = e.entry_id AND x.gone_at IS NULL', ['business_name', 'meaning'], $terms,
        );
        $found = ['entries' => [], 'fields' => [], 'texts' => []];
        $sources = $this->sources->all();
        foreach ($entries as $row) {
            if (self::allIn(Row::text($row, 'business_name'), $terms)) {
                $found['entries'][] = self::entry($row, $sources);
            } else {
                $excerpt = self::excerpt(Row::text($row, 'grain').' '.Row::text($row, 'meaning'), $terms);
                $found['texts'][] = self::entry($row, $sources) + ['excerpt' => $excerpt];
            }
        }
        foreach ($fields as $row) {
            if (self::allIn(Row::text($row, 'business_name'), $terms)) {
                $found['fields'][] = self::field($row);
            } else {
                $found['texts'][] = self::field($row) + ['excerpt' => self::excerpt(Row::text($row, 'meaning'), $terms)];
            }
        }
        $found['texts'] = \array_slice($found['texts'], 0, self::EACH);

        return $found;
    }

    /**
     * @param array<string, mixed>               $row
     * @param array<int, KnownSource> $sources
     *
     * @return array<string, mixed>
     */
    private static function entry(array $row, array $sources): array
    {
        return [
            'kind' => 'entry',
            'key' => 'e'.Row::int($row, 'id'),
            'id' => Row::int($row, 'id'),
            'field' => null,
            'name' => Row::text($row, 'name'),
            'title' => Entries::title(Row::text($row, 'business_name'), Row::text($row, 'name')),
            'where' => ($sources[Row::int($row, 'source_id')]->name ?? '').' · '.Row::text($row, 'schema_name'),
        ];
    }

    /**
     * @param array<string, mixed> $row
     *
     * @return array<string, mixed>
     */
    private static function field(array $row): array
    {
        return [
            'kind' => 'field',
            'key' => 'f'.Row::int($row, 'id'),
            'id' => Row::int($row, 'entry'),
            'field' => Row::int($row, 'id'),
            'name' => Row::text($row, 'name'),
            'title' => Row::text($row, 'business_name'),
            'where' => (string) new Place(Row::text($row, 'schema_name'), Row::text($row, 'entry_name')),
        ];
    }

    /**
     * Rows in whose texts every term begins a word. A full-text index is quick for what is rare but gathers every match of
     * what is frequent; what is frequent turns up among the first rows, so these are looked at first.
     *
     * @param list<string>           $columns
     * @param non-empty-list<string> $terms
     *
     * @return list<array<string, mixed>>
     */
    private function written(string $table, string $select, string $join, array $columns, array $terms): array
    {
        $all = 'CONCAT_WS(\' \', \'\', '.implode(', ', array_map(static fn (string $column): string => 'e.'.$column, $columns)).')';
        $where = implode(' AND ', array_fill(0, \count($terms), "$all REGEXP ?"));
        $words = array_map(static fn (string $term): string => '\\b'.preg_quote($term), $terms);
        $rows = $this->db->fetchAllAssociative(
            "SELECT $select FROM (SELECT * FROM $table ORDER BY id LIMIT "
                .self::LOOKED_AT.") e $join WHERE e.gone_at IS NULL AND e.meaning <> '' AND $where LIMIT ".self::WRITTEN,
            $words,
        );
        if (\count($rows) >= self::WRITTEN) {
            return $rows;
        }
        $against = implode(' ', array_map(static fn (string $word): string => '+'.$word.'*', $terms));

        return $this->db->fetchAllAssociative(
            "SELECT $select FROM $table e $join WHERE MATCH (e.".implode(', e.', $columns).') AGAINST (? IN BOOLEAN MODE) AND e.gone_at IS NULL LIMIT '
                .self::WRITTEN,
            [$against],
        );
    }

    /** @param list<string> $terms */
    private static function allIn(string $text, array $terms): bool
    {
        $text = mb_strtolower($text);

        return [] === array_filter($terms, static fn (string $term): bool => !str_contains($text, $term));
    }

    /** @param list<string> $terms */
    private static function excerpt(string $text, array $terms): string
    {
        $text = trim(preg_replace('/\s+/u', ' ', $text) ?? '');
        $at = mb_stripos($text, $terms[0]);
        $from = false === $at ? 0 : max(0, $at - 40);

        return ($from > 0 ? '…' : '').mb_substr($text, $from, 110).(mb_strlen($text) > $from + 110 ? '…' : '');
    }

    /**
     * @param list<array<string, mixed>> $rows
     *
     * @return list<array<string, mixed>>
     */
    private static function cut(array $rows): array
    {
        $seen = [];
        foreach ($rows as $row) {
            $seen[Row::text($row, 'key')] ??= $row;
        }

        return \array_slice(array_values($seen), 0, self::EACH);
    }
}
