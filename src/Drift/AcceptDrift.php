<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Drift\Doubt;
use Fasti\Core\Search\Trigrams;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Unheard;
use Fasti\Core\Wording\Identifier as Words;
use Fasti\Register\ApplyCatalog;
use Fasti\Register\RegisterCatalog;
use Fasti\Support\Row;

/**
 * Brings what a steward accepted of a drift into the register, inside the caller's transaction. A rename keeps the entry or
 * field that it is about, so every text, and its history, moves along. What is not accepted stays as it was and shows again
 * in the next survey.
 */
final readonly class AcceptDrift
{
    public function __construct(private Connection $db, private ApplyCatalog $apply, private RegisterCatalog $register)
    {
    }

    /**
     * @param list<array<string, mixed>>   $items   the drift as the survey keeps it
     * @param array<int, string>           $answers number of the item → yes, no (leave as it is), or apart (a rename that is none: one gone, one new)
     * @param array<int, list<string>>     $apart   number of the item → new names of columns whose rename was refused
     *
     * @return array{new: int, changed: int, gone: int, back: int, same: int}
     */
    public function accept(int $sourceId, Catalog $catalog, Choice $choice, array $items, array $answers, array $apart, Account $account): array
    {
        [$before] = $this->register->of($sourceId);
        $held = [];
        $renamed = $changed = $lost = [];
        foreach ($items as $i => $item) {
            [$schema, $name] = [self::text($item, 'schema'), self::text($item, 'name')];
            $from = \is_array($item['from'] ?? null) ? [self::text($item['from'], 'schema'), self::text($item['from'], 'name')] : null;
            $answer = $answers[$i] ?? 'no';
            if ('no' === $answer) {
                $held[$schema."\0".$name] = true;
                if (null !== $from) {
                    $held[$from[0]."\0".$from[1]] = true;
                }
                continue;
            }
            if (null !== $from && 'yes' === $answer) {
                $this->renameEntry($sourceId, $from, [$schema, $name], $account);
                $renamed[] = [$from[1], $name];
            }
            $was = $before->table($from[0] ?? $schema, $from[1] ?? $name);
            $is = $catalog->table($schema, $name);
            if (null !== $was && null !== $is && 'apart' !== $answer) {
                $changed[] = [$was, $is, $this->renameFields($sourceId, $is, $item, $apart[$i] ?? [], $account)];
            } elseif ('gone' === ($item['change'] ?? '')) {
                $lost[] = $name;
            }
        }
        $counts = $this->apply->apply($sourceId, $catalog, $choice, new Unheard(), $held);
        foreach ($changed as [$was, $is, $fields]) {
            $this->doubtFields($sourceId, $was, $is, $fields);
            foreach ($fields as $old => $new) {
                $renamed[] = [$old, $new];
            }
            foreach ($was->columns as $column) {
                if (null === $is->column($column->name) && !isset($fields[$column->name])) {
                    $this->doubtMentions($sourceId, $column->name, \sprintf('The text names %s, which %s has no more.', $column->name, $is->name), self::place($sourceId, $is));
                }
            }
        }
        foreach ($renamed as [$old, $new]) {
            $this->doubtMentions($sourceId, $old, \sprintf('The text names %s, which is called %s now.', $old, $new), null);
        }
        foreach ($lost as $name) {
            $this->doubtMentions($sourceId, $name, \sprintf('The text names %s, which is gone.', $name), null);
        }

        return $counts;
    }

    /**
     * @param array{string, string} $from schema and name
     * @param array{string, string} $to
     */
    private function renameEntry(int $sourceId, array $from, array $to, Account $account): void
    {
        $id = $this->db->fetchOne('SELECT id FROM entry WHERE source_id = ? AND schema_name = ? AND name = ?', [$sourceId, ...$from]);
        if (!is_numeric($id)) {
            return;
        }
        $taken = $this->db->fetchOne('SELECT id FROM entry WHERE source_id = ? AND schema_name = ? AND name = ?', [$sourceId, ...$to]);
        if (is_numeric($taken)) {
            // An entry of that name was there once and is gone: it gives its name up, and keeps its texts.
            $this->db->executeStatement("UPDATE entry SET name = CONCAT(LEFT(name, 230), ' (gone, ', id, ')') WHERE id = ?", [$taken]);
        }
        $this->db->executeStatement('UPDATE entry SET schema_name = ?, name = ?, identifier_id = ? WHERE id = ?', [$to[0], $to[1], $this->identifier($to[1]), $id]);
        $this->remember('entry', (int) $id, (int) $id, implode('.', $from), implode('.', $to), $account);
    }

    /**
     * @param array<string, mixed> $item
     * @param list<string>         $refused
     *
     * @return array<string, string> old name → new name
     */
    private function renameFields(int $sourceId, Table $table, array $item, array $refused, Account $account): array
    {
        $entry = $this->db->fetchOne('SELECT id FROM entry WHERE source_id = ? AND schema_name = ? AND name = ?', [$sourceId, $table->schema, $table->name]);
        $done = [];
        foreach (\is_array($item['columns'] ?? null) ? $item['columns'] : [] as $column) {
            if (!\is_array($column) || 'renamed' !== ($column['change'] ?? '') || \in_array($column['name'] ?? '', $refused, true)) {
                continue;
            }
            [$old, $new] = [self::text($column, 'from'), self::text($column, 'name')];
            $id = $this->db->fetchOne('SELECT id FROM field WHERE entry_id = ? AND name = ?', [$entry, $old]);
            if (!is_numeric($id)) {
                continue;
            }
            $this->db->executeStatement("UPDATE field SET name = CONCAT(LEFT(name, 600), ' (gone, ', id, ')') WHERE entry_id = ? AND name = ?", [$entry, $new]);
            $this->db->executeStatement('UPDATE field SET name = ?, identifier_id = ? WHERE id = ?', [$new, $this->identifier($new), $id]);
            $this->remember('field', (int) $id, is_numeric($entry) ? (int) $entry : 0, $old, $new, $account);
            $done[$old] = $new;
        }
        if ([] !== $done && is_numeric($entry)) {
            $this->renameBeside((int) $entry, $done);
        }

        return $done;
    }

    /**
     * What else knows the fields by their names: the profile, and the fields that tell rows apart.
     *
     * @param array<string, string> $renamed
     */
    private function renameBeside(int $entry, array $renamed): void
    {
        $figures = $this->db->fetchOne('SELECT figures FROM profile WHERE entry_id = ?', [$entry]);
        $figures = \is_string($figures) ? json_decode($figures, true) : null;
        if (\is_array($figures) && \is_array($figures['fields'] ?? null)) {
            $fields = [];
            foreach ($figures['fields'] as $name => $field) {
                $fields[$renamed[$name] ?? $name] = $field;
            }
            $figures['fields'] = $fields;
            $this->db->executeStatement('UPDATE profile SET figures = ? WHERE entry_id = ?', [json_encode($figures, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES), $entry]);
        }
        $apart = $this->db->fetchOne('SELECT grain_fields FROM entry WHERE id = ?', [$entry]);
        if (\is_string($apart) && '' !== $apart) {
            $names = array_map(static fn (string $name): string => $renamed[trim($name)] ?? trim($name), explode(',', $apart));
            $this->db->executeStatement('UPDATE entry SET grain_fields = ? WHERE id = ?', [implode(', ', $names), $entry]);
        }
    }

    private function remember(string $subject, int $id, int $entry, string $before, string $after, Account $account): void
    {
        $this->db->executeStatement("INSERT INTO change_event (subject, subject_id, entry_id, property, text_before, text_after, account_id, at, sitting) VALUES (?, ?, ?, 'name', ?, ?, ?, UTC_TIMESTAMP(), 'drift')", [$subject, $id, $entry, $before, $after, $account->id()]);
    }

    private function identifier(string $name): int
    {
        $folded = Words::folded($name);
        $folded = mb_substr('' === $folded ? $name : $folded, 0, 190);
        $id = $this->db->fetchOne('SELECT id FROM identifier WHERE folded = ?', [$folded]);
        if (!is_numeric($id)) {
            $this->db->executeStatement('INSERT INTO identifier (folded) VALUES (?)', [$folded]);
            $id = (int) $this->db->lastInsertId();
            foreach (Trigrams::of($folded) as $gram) {
                $this->db->executeStatement('INSERT IGNORE INTO identifier_gram (gram, identifier_id) VALUES (?, ?)', [$gram, $id]);
            }
        }

        return (int) $id;
    }

    /** @param array<string, string> $renamed */
    private function doubtFields(int $sourceId, Table $was, Table $is, array $renamed): void
    {
        $entry = $this->db->fetchAssociative('SELECT id, meaning, grain FROM entry WHERE source_id = ? AND schema_name = ? AND name = ?', [$sourceId, $is->schema, $is->name]);
        if (false === $entry) {
            return;
        }
        $id = Row::int($entry, 'id');
        $shell = static fn (Table $table): Column => new Column($table->name, '', comment: $table->comment);
        $reason = Doubt::about(Row::text($entry, 'meaning'), $shell($was), $shell($is));
        if (null !== $reason) {
            $this->note($id, null, 'meaning', $reason);
        }
        if ('' !== Row::text($entry, 'grain') && ($was->primaryKey->columns ?? []) !== ($is->primaryKey->columns ?? [])) {
            $this->note($id, null, 'grain', 'The primary key has changed, so one row may stand for something else now.');
        }
        $texts = [];
        foreach ($this->db->iterateAssociative('SELECT id, name, meaning FROM field WHERE entry_id = ?', [$id]) as $row) {
            $texts[Row::text($row, 'name')] = $row;
        }
        foreach ($was->columns as $column) {
            $now = $is->column($renamed[$column->name] ?? $column->name);
            if (null !== $now && isset($texts[$now->name]) && null !== ($reason = Doubt::about(Row::text($texts[$now->name], 'meaning'), $column, $now))) {
                $this->note($id, Row::int($texts[$now->name], 'id'), 'meaning', $reason);
            }
        }
    }

    /** @param ?array{int, string, string} $within source, schema and name of the only entry to look at; null for all of the source */
    private function doubtMentions(int $sourceId, string $word, string $reason, ?array $within): void
    {
        // A name of a few letters stands in any sentence by accident.
        if (mb_strlen($word) < 4) {
            return;
        }
        $like = '%'.addcslashes($word, '%_\\').'%';
        $place = null === $within ? '' : ' AND e.schema_name = ? AND e.name = ?';
        $parameters = null === $within ? [$sourceId] : [$sourceId, $within[1], $within[2]];
        foreach ($this->db->fetchAllAssociative("SELECT e.id, NULL AS field, e.meaning, e.grain FROM entry e WHERE e.source_id = ? $place AND e.gone_at IS NULL AND (e.meaning LIKE ? OR e.grain LIKE ?)", [...$parameters, $like, $like]) as $row) {
            foreach (['meaning', 'grain'] as $property) {
                if (Doubt::mentions(Row::text($row, $property), $word)) {
                    $this->note(Row::int($row, 'id'), null, $property, $reason);
                }
            }
        }
        foreach ($this->db->fetchAllAssociative("SELECT e.id, f.id AS field, f.meaning FROM field f JOIN entry e ON e.id = f.entry_id WHERE e.source_id = ? $place AND e.gone_at IS NULL AND f.gone_at IS NULL AND f.meaning LIKE ?", [...$parameters, $like]) as $row) {
            if (Doubt::mentions(Row::text($row, 'meaning'), $word)) {
                $this->note(Row::int($row, 'id'), Row::int($row, 'field'), 'meaning', $reason);
            }
        }
    }

    private function note(int $entry, ?int $field, string $property, string $reason): void
    {
        $known = $this->db->fetchOne('SELECT id FROM margin_note WHERE entry_id = ? AND field_id <=> ? AND property = ? AND reason = ? AND settled_at IS NULL', [$entry, $field, $property, $reason]);
        if (false === $known) {
            $this->db->executeStatement('INSERT INTO margin_note (entry_id, field_id, property, reason, made_at) VALUES (?, ?, ?, ?, UTC_TIMESTAMP())', [$entry, $field, $property, $reason]);
        }
    }

    /** @return array{int, string, string} */
    private static function place(int $sourceId, Table $table): array
    {
        return [$sourceId, $table->schema, $table->name];
    }

    /** @param array<mixed> $data */
    private static function text(array $data, string $key): string
    {
        $value = $data[$key] ?? '';

        return \is_string($value) ? $value : '';
    }
}
