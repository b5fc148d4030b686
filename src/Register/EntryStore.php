<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Wording\Naming;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/**
 * What other rooms ask about entries without needing them whole.
 *
 * @phpstan-type Listed array{id: int, schema: string, name: string, businessName: string, fields: int, described: int}
 */
final readonly class EntryStore
{
    private const COVERAGE = 'COUNT(*) AS entries, COALESCE(SUM(field_count), 0) AS fields, COALESCE(SUM(described_count), 0) AS described';
    private const LISTED = 'id, schema_name, name, business_name, field_count, described_count';

    public function __construct(private Connection $db)
    {
    }

    public function at(int $source, Place $place): ?int
    {
        $id = $this->db->fetchOne('SELECT id FROM entry WHERE source_id = ? AND schema_name = ? AND name = ?', [$source, $place->schema, $place->name]);

        return is_numeric($id) ? (int) $id : null;
    }

    /** @return array<string, int> key of the place → entry, those that are gone included */
    public function places(int $source): array
    {
        $places = [];
        foreach ($this->db->iterateAssociative('SELECT id, schema_name, name FROM entry WHERE source_id = ?', [$source]) as $row) {
            $places[(new Place(Row::text($row, 'schema_name'), Row::text($row, 'name')))->key()] = Row::int($row, 'id');
        }

        return $places;
    }

    /** @return list<NamedEntry> entries whose business name another one of their source bears too */
    public function namedAlike(): array
    {
        $rows = $this->db->fetchAllAssociative(
            "SELECT id, business_name FROM entry WHERE gone_at IS NULL AND (source_id, business_name) IN (
                SELECT source_id, business_name FROM entry WHERE gone_at IS NULL AND business_name <> '' GROUP BY source_id, business_name HAVING COUNT(*) > 1
            ) ORDER BY id",
        );

        return array_map(static fn (array $row): NamedEntry => new NamedEntry(Row::int($row, 'id'), Row::text($row, 'business_name')), $rows);
    }

    /** @return list<string> what entries are called, by the database or by people */
    public function namesInSmallLetters(): array
    {
        return array_values(array_filter($this->db->fetchFirstColumn(
            "SELECT LOWER(name) FROM entry WHERE gone_at IS NULL UNION SELECT LOWER(business_name) FROM entry WHERE gone_at IS NULL AND business_name <> ''",
        ), is_string(...)));
    }

    /** Whether a source has views, or had some. */
    public function hasViews(int $source): bool
    {
        return false !== $this->db->fetchOne("SELECT 1 FROM entry WHERE source_id = ? AND table_type LIKE '%view' LIMIT 1", [$source]);
    }

    /** @return list<int> entries that are not to be used any more */
    public function retired(): array
    {
        return self::numbers(
            $this->db->fetchFirstColumn('SELECT id FROM entry WHERE standing = ? AND gone_at IS NULL ORDER BY id', [Standing::Retired->value]),
        );
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, EntryAt> where they stand and what they are called
     */
    public function placed(array $entries): array
    {
        $placed = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            $rows = $this->db->iterateAssociative(
                'SELECT id, source_id, schema_name, name, business_name, table_type FROM entry WHERE id IN (?)',
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $placed[Row::int($row, 'id')] = new EntryAt(
                    Row::int($row, 'source_id'), new Place(Row::text($row, 'schema_name'), Row::text($row, 'name')),
                    Row::text($row, 'business_name') ?: Row::text($row, 'name'), str_contains(Row::text($row, 'table_type'), 'view'),
                );
            }
        }

        return $placed;
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, int> entry → its source
     */
    public function sources(array $entries): array
    {
        $sources = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative('SELECT id, source_id FROM entry WHERE id IN (?)', [$chunk], [ArrayParameterType::INTEGER]) as $row) {
                $sources[Row::int($row, 'id')] = Row::int($row, 'source_id');
            }
        }

        return $sources;
    }

    /** @return list<int> entries of a source, or of one of its schemas, in the order of their names */
    public function ids(int $source, ?string $schema = null): array
    {
        return self::numbers($this->db->fetchFirstColumn(
            'SELECT id FROM entry WHERE source_id = ? AND gone_at IS NULL AND (? = 1 OR schema_name = ?) ORDER BY schema_name, name',
            [$source, null === $schema ? 1 : 0, $schema ?? ''],
        ));
    }

    /**
     * Entries that bear one of some names, in whatever case: in the source, or as people call them.
     *
     * @param list<string> $names
     *
     * @return list<int>
     */
    public function called(array $names): array
    {
        return [] === $names ? [] : self::numbers($this->db->fetchFirstColumn(
            'SELECT id FROM entry WHERE gone_at IS NULL AND (LOWER(name) IN (:names) OR LOWER(business_name) IN (:names)) ORDER BY id',
            ['names' => array_map(mb_strtolower(...), \array_slice($names, 0, 500))],
            ['names' => ArrayParameterType::STRING],
        ));
    }

    /**
     * What a map needs of the entries of a source, or of one of its schemas.
     *
     * @return array<int, Measured> by entry, in the order of their names
     */
    public function measured(int $source, ?string $schema = null): array
    {
        $measured = [];
        foreach ($this->db->iterateAssociative(
            'SELECT id, name, business_name, field_count FROM entry
             WHERE source_id = ? AND gone_at IS NULL AND (? = 1 OR schema_name = ?) ORDER BY schema_name, name',
            [$source, null === $schema ? 1 : 0, $schema ?? ''],
        ) as $row) {
            $name = Row::text($row, 'name');
            $measured[Row::int($row, 'id')] = new Measured($name, Entries::title(Row::text($row, 'business_name'), $name), Row::int($row, 'field_count'));
        }

        return $measured;
    }

    /** @return list<int> all that a source has, those with rows of their own first */
    public function idsWithData(int $source): array
    {
        return self::numbers($this->db->fetchFirstColumn(
            "SELECT id FROM entry WHERE source_id = ? AND gone_at IS NULL ORDER BY table_type = 'table' DESC, schema_name, name",
            [$source],
        ));
    }

    /**
     * A part of them, for going through all in an even pace.
     *
     * @param ?Place $after where the last part ended
     *
     * @return list<EntryPart>
     */
    public function part(int $source, ?Place $after, int $most): array
    {
        $rows = $this->db->fetchAllAssociative(
            'SELECT id, schema_name, name FROM entry WHERE source_id = ? AND gone_at IS NULL AND (schema_name > ? OR (schema_name = ? AND name > ?))
                ORDER BY schema_name, name LIMIT '.$most,
            [$source, $after->schema ?? '', $after->schema ?? '', $after->name ?? ''],
        );

        return array_map(
            static fn (array $row): EntryPart => new EntryPart(Row::int($row, 'id'), new Place(Row::text($row, 'schema_name'), Row::text($row, 'name'))),
            $rows,
        );
    }

    /** @return list<string> */
    public function schemas(int $source = 0): array
    {
        $names = $this->db->fetchFirstColumn('SELECT DISTINCT schema_name FROM entry WHERE ? IN (0, source_id) ORDER BY schema_name LIMIT 500', [$source]);

        return array_values(array_filter($names, is_string(...)));
    }

    public function coverage(): RegisterCoverage
    {
        return self::covered($this->db->fetchAssociative('SELECT '.self::COVERAGE.' FROM entry WHERE gone_at IS NULL') ?: []);
    }

    /** @return array<int, RegisterCoverage> */
    public function coverageBySource(): array
    {
        $coverage = [];
        foreach ($this->db->iterateAssociative('SELECT source_id, '.self::COVERAGE.' FROM entry WHERE gone_at IS NULL GROUP BY source_id') as $row) {
            $coverage[Row::int($row, 'source_id')] = self::covered($row);
        }

        return $coverage;
    }

    /** @return list<SchemaCoverage> */
    public function coverageBySchema(int $source): array
    {
        $rows = $this->db->fetchAllAssociative(
            "SELECT schema_name, SUM(table_type = 'table') AS tables, SUM(table_type IN ('view', 'materialized view')) AS views,
                SUM(table_type = 'collection') AS collections,
                SUM(field_count) AS fields, SUM(described_count) AS described FROM entry WHERE source_id = ? AND gone_at IS NULL GROUP BY schema_name
                    ORDER BY schema_name", [$source]);

        return array_map(static fn (array $row): SchemaCoverage => new SchemaCoverage(
            Row::text($row, 'schema_name'), Row::int($row, 'tables'), Row::int($row, 'views'),
            Row::int($row, 'collections'), Row::int($row, 'fields'), Row::int($row, 'described'),
        ), $rows);
    }

    /** @return array<int, array<string, int>> source → schema → how many entries */
    public function countsBySchema(): array
    {
        $counts = [];
        foreach ($this->db->iterateAssociative('SELECT source_id, schema_name, COUNT(*) AS n FROM entry WHERE gone_at IS NULL
            GROUP BY source_id, schema_name ORDER BY source_id, schema_name') as $row) {
            $counts[Row::int($row, 'source_id')][Row::text($row, 'schema_name')] = Row::int($row, 'n');
        }

        return $counts;
    }

    /** @return list<string> the fields that are said to tell rows apart */
    public function grainFields(int $entry): array
    {
        $text = $this->db->fetchOne('SELECT grain_fields FROM entry WHERE id = ?', [$entry]);

        return GrainFields::named(\is_string($text) ? $text : '');
    }

    /** Engines without an estimate have the number of rows that was counted. */
    public function counted(int $entry, int $rows): void
    {
        $this->db->executeStatement('UPDATE entry SET row_estimate = ? WHERE id = ? AND row_estimate IS NULL', [$rows, $entry]);
    }

    /**
     * Entries of a source by schema, narrowed by a text, around one of them when there are too many for one list.
     *
     * @return array{rows: list<Listed>, total: int}
     */
    public function index(int $source, string $text, ?Place $around, int $most): array
    {
        $where = 'source_id = ? AND gone_at IS NULL';
        $parameters = [$source];
        if ('' !== $text) {
            $where .= ' AND (name LIKE ? COLLATE utf8mb4_unicode_ci OR business_name LIKE ? OR identifier_id IN (SELECT id FROM identifier WHERE folded '
                .'LIKE ?))';
            $like = '%'.addcslashes($text, '%_\\').'%';
            array_push($parameters, $like, $like, '%'.addcslashes(Naming::folded($text), '%_\\').'%');
        }
        $total = Row::int(['n' => $this->db->fetchOne("SELECT COUNT(*) FROM entry WHERE $where", $parameters)], 'n');
        $columns = self::LISTED;
        if ($total <= $most || null === $around) {
            $rows = $this->db->fetchAllAssociative("SELECT $columns FROM entry WHERE $where ORDER BY schema_name, name LIMIT $most", $parameters);
        } else {
            $half = intdiv($most, 2);
            $near = [...$parameters, $around->schema, $around->name];
            $rows = [
                ...array_reverse($this->db->fetchAllAssociative(
                    "SELECT $columns FROM entry WHERE $where AND schema_name = ? AND name <= ? ORDER BY name DESC LIMIT $half",
                    $near,
                )),
                ...$this->db->fetchAllAssociative("SELECT $columns FROM entry WHERE $where AND schema_name = ? AND name > ? ORDER BY name LIMIT $half", $near),
            ];
        }

        return ['rows' => array_map(self::listed(...), $rows), 'total' => $total];
    }

    /** The entry before (−1) or after (1) a place, in the order of the index. */
    public function neighbour(int $source, Place $place, int $side): ?int
    {
        [$than, $order] = $side < 0 ? ['<', 'DESC'] : ['>', 'ASC'];
        $id = $this->db->fetchOne(
            "SELECT id FROM entry WHERE source_id = ? AND gone_at IS NULL AND schema_name $than= ? AND (schema_name <> ? OR name $than ?)
                ORDER BY schema_name $order, name $order LIMIT 1",
            [$source, $place->schema, $place->schema, $place->name],
        );

        return is_numeric($id) ? (int) $id : null;
    }

    /**
     * What people wrote about a source that may name something in it.
     *
     * @return list<WrittenText>
     */
    public function written(int $source): array
    {
        $found = [];
        foreach ($this->db->iterateAssociative(
            "SELECT id, schema_name, name, meaning, grain FROM entry WHERE source_id = ? AND gone_at IS NULL AND (meaning <> '' OR grain <> '')",
            [$source],
        ) as $row) {
            $place = new Place(Row::text($row, 'schema_name'), Row::text($row, 'name'));
            $texts = array_filter(['meaning' => Row::text($row, 'meaning'), 'grain' => Row::text($row, 'grain')]);
            $found[] = new WrittenText(Row::int($row, 'id'), null, $place, $place->name, $texts);
        }
        $fields = "SELECT e.id, e.schema_name, e.name AS entry_name, f.id AS field, f.name, f.meaning FROM field f JOIN entry e ON e.id = f.entry_id
            WHERE e.source_id = ? AND e.gone_at IS NULL AND f.gone_at IS NULL AND f.meaning <> ''";
        foreach ($this->db->iterateAssociative($fields, [$source]) as $row) {
            $found[] = new WrittenText(
                Row::int($row, 'id'), Row::int($row, 'field'), new Place(Row::text($row, 'schema_name'), Row::text($row, 'entry_name')),
                Row::text($row, 'name'), ['meaning' => Row::text($row, 'meaning')],
            );
        }

        return $found;
    }

    /** @return list<int> entries of other sources of which some field is described */
    public function describedElsewhere(int $source, int $most): array
    {
        return self::numbers($this->db->fetchFirstColumn(
            'SELECT id FROM entry WHERE source_id <> ? AND gone_at IS NULL AND described_count > 0 ORDER BY described_count DESC, id LIMIT '.$most,
            [$source],
        ));
    }

    /**
     * Entries of a source with what makes them worth describing.
     *
     * @return array<int, Weighed>
     */
    public function weighed(int $source): array
    {
        $weighed = [];
        foreach ($this->db->iterateAssociative(
            "SELECT id, schema_name, name, business_name, COALESCE(row_estimate, 0) AS n, meaning <> '' AS described FROM entry
             WHERE source_id = ? AND gone_at IS NULL AND standing <> 'retired'",
            [$source],
        ) as $row) {
            $weighed[Row::int($row, 'id')] = new Weighed(
                Row::text($row, 'name'), Row::text($row, 'schema_name'), Row::text($row, 'business_name') ?: Row::text($row, 'name'),
                Row::int($row, 'n'), 1 === Row::int($row, 'described'),
            );
        }

        return $weighed;
    }

    /** @return list<EntryCoverage> */
    public function coverageOfSchemas(): array
    {
        return array_map(static fn (array $row): EntryCoverage => new EntryCoverage(
            Row::int($row, 'source_id'), Row::text($row, 'schema_name'), Row::int($row, 'fields'), Row::int($row, 'described'),
        ), $this->db->fetchAllAssociative(
            'SELECT source_id, schema_name, SUM(field_count) AS fields, SUM(described_count) AS described FROM entry WHERE gone_at IS NULL GROUP BY '
                .'source_id, schema_name',
        ));
    }

    /**
     * How much is described, by entry: for sums over what the asker groups them by.
     *
     * @return array<int, EntryCoverage>
     */
    public function coverageByEntry(): array
    {
        $covered = [];
        foreach ($this->db->iterateAssociative('SELECT id, source_id, schema_name, field_count, described_count FROM entry WHERE gone_at IS NULL') as $row) {
            $covered[Row::int($row, 'id')] = new EntryCoverage(
                Row::int($row, 'source_id'), Row::text($row, 'schema_name'), Row::int($row, 'field_count'), Row::int($row, 'described_count'),
            );
        }

        return $covered;
    }

    /**
     * @param array<string, mixed> $row
     *
     * @return Listed
     */
    private static function listed(array $row): array
    {
        return [
            'id' => Row::int($row, 'id'), 'schema' => Row::text($row, 'schema_name'), 'name' => Row::text($row, 'name'),
            'businessName' => Row::text($row, 'business_name'), 'fields' => Row::int($row, 'field_count'), 'described' => Row::int($row, 'described_count'),
        ];
    }

    /**
     * @param array<string, mixed> $row
     */
    private static function covered(array $row): RegisterCoverage
    {
        return new RegisterCoverage(Row::int($row, 'entries'), Row::int($row, 'fields'), Row::int($row, 'described'));
    }

    /**
     * @param list<mixed> $values
     *
     * @return list<int>
     */
    private static function numbers(array $values): array
    {
        return array_values(array_map(intval(...), array_filter($values, is_numeric(...))));
    }

    /** @return list<int> entries that have the letters in their name, or in that of a field */
    public function inNames(string $letters): array
    {
        $like = '%'.addcslashes(mb_strtolower($letters), '%_\\').'%';

        return array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $this->db->fetchFirstColumn(
            'SELECT id FROM entry WHERE LOWER(name) LIKE ? UNION SELECT entry_id FROM field WHERE LOWER(name) LIKE ?',
            [$like, $like],
        ));
    }
}
