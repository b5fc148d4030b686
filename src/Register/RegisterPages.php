<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\Connection;
use Fasti\Source\SourceStore;
use Fasti\Support\Row;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/** The entries of the register a page at a time, narrowed. */
final readonly class RegisterPages
{
    public const PAGE = 100;
    private const DESCRIBED = [
        'yes' => ['Described in full', "e.meaning <> '' AND e.described_count = e.field_count"],
        'part' => ['Described in part', "(e.meaning <> '' OR e.described_count > 0) AND NOT (e.meaning <> '' AND e.described_count = e.field_count)"],
        'no' => ['Not described', "e.meaning = '' AND e.described_count = 0"],
    ];
    private const GONE = ['gone' => ['Gone from the source', 'e.gone_at IS NOT NULL']];

    /**
     * @param iterable<EntryFilter> $filters
     * @param iterable<EntryFacet>  $facets
     */
    public function __construct(
        private Connection $db,
        private SourceStore $sources,
        #[AutowireIterator(EntryFilter::class)] private iterable $filters,
        #[AutowireIterator(EntryFacet::class)] private iterable $facets,
    ) {
    }

    /** @return array<string, string> what the register can be narrowed to besides: key → words */
    public function choices(): array
    {
        return array_map(static fn (array $choice): string => $choice[0], $this->known());
    }

    /**
     * @return array{rows: list<array<string, mixed>>, total: int, next: string|null} one page, and where the next begins
     */
    public function page(RegisterFilter $filter): array
    {
        [$where, $parameters] = $this->where($filter);
        $page = $where;
        $pageParameters = $parameters;
        // Pages follow the order of the index (name, id): as quick at the last page as at the first.
        if (1 === preg_match('/^(\d+):(.*)$/s', $filter->after, $m)) {
            $page .= ' AND (e.name > ? OR (e.name = ? AND e.id > ?))';
            array_push($pageParameters, $m[2], $m[2], (int) $m[1]);
        }
        $rows = $this->db->fetchAllAssociative(
            "SELECT e.id, e.source_id, e.schema_name, e.name, e.table_type, e.business_name, e.grain, e.meaning, e.standing, e.comment, e.row_estimate,
                e.size_bytes, e.field_count, e.described_count, e.gone_at
             FROM entry e WHERE $page ORDER BY e.name, e.id LIMIT ".(self::PAGE + 1), $pageParameters);
        $next = null;
        if (\count($rows) > self::PAGE) {
            array_pop($rows);
            $last = $rows[self::PAGE - 1];
            $next = Row::int($last, 'id').':'.Row::text($last, 'name');
        }
        $sources = $this->sources->all();
        foreach ($rows as $i => $row) {
            $rows[$i]['source_name'] = $sources[Row::int($row, 'source_id')]->name ?? '';
        }

        return [
            'rows' => $rows,
            'total' => Row::int(['n' => $this->db->fetchOne("SELECT COUNT(*) FROM entry e WHERE $where", $parameters)], 'n'),
            'next' => $next,
        ];
    }

    /** @return list<int> the entries that a filter leaves, in the order of the pages */
    public function ids(RegisterFilter $filter, int $most): array
    {
        [$where, $parameters] = $this->where($filter);

        return array_map(
            static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0,
            $this->db->fetchFirstColumn("SELECT e.id FROM entry e WHERE $where ORDER BY e.name, e.id LIMIT $most", $parameters),
        );
    }

    /** @return array{string, list<string|int>} */
    private function where(RegisterFilter $filter): array
    {
        $where = [$this->known()[$filter->described][1] ?? '1 = 1'];
        $parameters = [];
        if ('' !== $filter->text) {
            $like = '%'.addcslashes($filter->text, '%_\\').'%';
            $where[] = '(e.name LIKE ? COLLATE utf8mb4_unicode_ci OR e.business_name LIKE ?)';
            array_push($parameters, $like, $like);
        }
        foreach ([
            'e.source_id = ?' => $filter->source ?: null,
            'e.schema_name = ?' => $filter->schema ?: null,
            'e.table_type = ?' => $filter->type?->value,
        ] as $condition => $value) {
            if (null !== $value) {
                $where[] = $condition;
                $parameters[] = $value;
            }
        }
        if (!isset(self::GONE[$filter->described])) {
            $where[] = 'e.gone_at IS NULL';
        }

        return [implode(' AND ', $where), $parameters];
    }

    /** @return array<string, array{string, string}> key → words and condition */
    private function known(): array
    {
        $known = self::DESCRIBED;
        foreach ($this->filters as $filter) {
            $known[$filter->key()] = [$filter->words(), $filter->condition()];
        }
        foreach ($this->facets as $facet) {
            $known += $facet->choices();
        }

        return $known + self::GONE;
    }
}
