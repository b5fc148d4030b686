<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\Connection;
use Fasti\Support\Row;
use Symfony\Component\HttpFoundation\Request;

/** What the register is narrowed to. */
final readonly class RegisterFilter
{
    public const PAGE = 100;

    public function __construct(
        public string $text = '',
        public int $source = 0,
        public string $schema = '',
        public string $kind = '',
        public string $described = '',
        public string $after = '',
    ) {
    }

    public static function from(Request $request): self
    {
        $query = $request->query;

        return new self(trim($query->getString('q')), max(0, $query->getInt('source')), $query->getString('schema'), $query->getString('kind'), $query->getString('described'), $query->getString('after'));
    }

    /**
     * @return array{rows: list<array<string, mixed>>, total: int, next: string|null} one page, and where the next begins
     */
    public function run(Connection $db): array
    {
        [$where, $parameters] = $this->where();
        $page = $where;
        $pageParameters = $parameters;
        // Pages follow the order of the index (name, id): as quick at the last page as at the first.
        if (1 === preg_match('/^(\d+):(.*)$/s', $this->after, $m)) {
            $page .= ' AND (e.name > ? OR (e.name = ? AND e.id > ?))';
            array_push($pageParameters, $m[2], $m[2], (int) $m[1]);
        }
        $rows = $db->fetchAllAssociative(
            "SELECT e.id, e.schema_name, e.name, e.kind, e.business_name, e.grain, e.meaning, e.standing, e.comment, e.row_estimate, e.size_bytes, e.field_count, e.described_count, e.gone_at, s.name AS source_name
             FROM entry e JOIN source s ON s.id = e.source_id WHERE $page ORDER BY e.name, e.id LIMIT ".(self::PAGE + 1), $pageParameters);
        $next = null;
        if (\count($rows) > self::PAGE) {
            array_pop($rows);
            $last = $rows[self::PAGE - 1];
            $next = Row::int($last, 'id').':'.Row::text($last, 'name');
        }

        return ['rows' => $rows, 'total' => (int) self::scalar($db, "SELECT COUNT(*) FROM entry e WHERE $where", $parameters), 'next' => $next];
    }

    /** @return array{string, list<string|int>} */
    private function where(): array
    {
        $where = ['1 = 1'];
        $parameters = [];
        if ('' !== $this->text) {
            $like = '%'.addcslashes($this->text, '%_\\').'%';
            $where[] = '(e.name LIKE ? COLLATE utf8mb4_unicode_ci OR e.business_name LIKE ?)';
            array_push($parameters, $like, $like);
        }
        if ($this->source > 0) {
            $where[] = 'e.source_id = ?';
            $parameters[] = $this->source;
        }
        if ('' !== $this->schema) {
            $where[] = 'e.schema_name = ?';
            $parameters[] = $this->schema;
        }
        if (\in_array($this->kind, ['table', 'view', 'materialized view', 'collection'], true)) {
            $where[] = 'e.kind = ?';
            $parameters[] = $this->kind;
        }
        $where[] = match ($this->described) {
            'yes' => "e.meaning <> '' AND e.described_count = e.field_count",
            'part' => "(e.meaning <> '' OR e.described_count > 0) AND NOT (e.meaning <> '' AND e.described_count = e.field_count)",
            'no' => "e.meaning = '' AND e.described_count = 0",
            'gone' => 'e.gone_at IS NOT NULL',
            'doubtful' => 'EXISTS (SELECT 1 FROM margin_note n WHERE n.entry_id = e.id AND n.settled_at IS NULL)',
            default => '1 = 1',
        };
        if ('gone' !== $this->described) {
            $where[] = 'e.gone_at IS NULL';
        }

        return [implode(' AND ', $where), $parameters];
    }

    /** @param list<string|int> $parameters */
    private static function scalar(Connection $db, string $sql, array $parameters): string
    {
        $value = $db->fetchOne($sql, $parameters);

        return \is_scalar($value) ? (string) $value : '0';
    }
}
