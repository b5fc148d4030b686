<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Drift\Doubt;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
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
        $identifiers = $this->apply->identify(self::newNames($items));
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
                $this->renameEntry($sourceId, $from, [$schema, $name], $identifiers, $account);
                $renamed[] = [$from[1], $name];
            }
            $was = $before->table($from[0] ?? $schema, $from[1] ?? $name);
            $is = $catalog->table($schema, $name);
            if (null !== $was && null !== $is && 'apart' !== $answer) {
                $changed[] = [$was, $is, $this->renameFields($sourceId, $is, $item, $apart[$i] ?? [], $identifiers, $account)];
            } elseif ('gone' === ($item['change'] ?? '')) {
                $lost[] = $name;
            }
        }
        $counts = $this->apply->apply($sourceId, $catalog, $choice, new SilentProgress(), $held);
        // Word → reason and, where it holds for one entry only, the place of that.
        $mentions = [];
        foreach ($changed as [$was, $is, $fields]) {
            foreach ($fields as $old => $new) {
                $renamed[] = [$old, $new];
            }
            foreach ($was->columns as $column) {
                if (null === $is->column($column->name) && !isset($fields[$column->name])) {
                    $mentions[$column->name][] = [\sprintf('The text names %s, which %s has no more.', $column->name, $is->name), $is->place()->key()];
                }
            }
        }
        foreach ($renamed as [$old, $new]) {
            $mentions[$old][] = [\sprintf('The text names %s, which is called %s now.', $old, $new), null];
        }
        foreach ($lost as $name) {
            $mentions[$name][] = [\sprintf('The text names %s, which is gone.', $name), null];
        }
        $this->doubt($sourceId, $changed, $mentions);

        return $counts;
    }

    /**
     * @param array{string, string} $from schema and name
     * @param array{string, string} $to
     * @param array<string, int>    $identifiers
     */
    private function renameEntry(int $sourceId, array $from, array $to, array $identifiers, Account $account): void
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
        $this->db->executeStatement('UPDATE entry SET schema_name = ?, name = ?, identifier_id = ? WHERE id = ?', [$to[0], $to[1], $identifiers[ApplyCatalog::fold($to[1])], $id]);
        $this->remember('entry', (int) $id, (int) $id, implode('.', $from), implode('.', $to), $account);
    }

    /**
     * @param array<string, mixed> $item
     * @param list<string>         $refused
     * @param array<string, int>   $identifiers
     *
     * @return array<string, string> old name → new name
     */
    private function renameFields(int $sourceId, Table $table, array $item, array $refused, array $identifiers, Account $account): array
    {
        $columns = array_filter(\is_array($item['columns'] ?? null) ? $item['columns'] : [], static fn (mixed $column): bool => \is_array($column) && 'renamed' === ($column['change'] ?? ''));
        if ([] === $columns) {
            return [];
        }
        $entry = $this->db->fetchOne('SELECT id FROM entry WHERE source_id = ? AND schema_name = ? AND name = ?', [$sourceId, $table->schema, $table->name]);
        $done = [];
        foreach ($columns as $column) {
            if (!\is_array($column) || \in_array($column['name'] ?? '', $refused, true)) {
                continue;
            }
            [$old, $new] = [self::text($column, 'from'), self::text($column, 'name')];
            $id = $this->db->fetchOne('SELECT id FROM field WHERE entry_id = ? AND name = ?', [$entry, $old]);
            if (!is_numeric($id)) {
                continue;
            }
            $this->db->executeStatement("UPDATE field SET name = CONCAT(LEFT(name, 600), ' (gone, ', id, ')') WHERE entry_id = ? AND name = ?", [$entry, $new]);
            $this->db->executeStatement('UPDATE field SET name = ?, identifier_id = ? WHERE id = ?', [$new, $identifiers[ApplyCatalog::fold($new)], $id]);
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

    /**
     * Looks through everything that people wrote about the source, once, for what the changes make doubtful.
     *
     * @param list<array{Table, Table, array<string, string>}>        $changed  before, after, and the fields renamed
     * @param array<array-key, non-empty-list<array{string, ?string}>> $mentions
     */
    private function doubt(int $sourceId, array $changed, array $mentions): void
    {
        $pairs = [];
        foreach ($changed as [$was, $is, $fields]) {
            $pairs[$is->place()->key()] = [$was, $is, array_flip($fields)];
        }
        foreach ($this->db->fetchAllAssociative("SELECT id, schema_name, name, meaning, grain FROM entry WHERE source_id = ? AND gone_at IS NULL AND (meaning <> '' OR grain <> '')", [$sourceId]) as $row) {
            $place = Row::text($row, 'schema_name')."\0".Row::text($row, 'name');
            $id = Row::int($row, 'id');
            if (isset($pairs[$place])) {
                [$was, $is] = $pairs[$place];
                $shell = static fn (Table $table): Column => new Column($table->name, '', comment: $table->comment);
                $this->note($id, null, 'meaning', Doubt::about(Row::text($row, 'meaning'), $shell($was), $shell($is)));
                if ('' !== Row::text($row, 'grain') && ($was->primaryKey->columns ?? []) !== ($is->primaryKey->columns ?? [])) {
                    $this->note($id, null, 'grain', 'The primary key has changed, so one row may stand for something else now.');
                }
            }
            foreach (['meaning', 'grain'] as $property) {
                foreach (self::mentioned(Row::text($row, $property), $place, $mentions) as $reason) {
                    $this->note($id, null, $property, $reason);
                }
            }
        }
        foreach ($this->db->fetchAllAssociative("SELECT e.id, e.schema_name, e.name AS entry_name, f.id AS field, f.name, f.meaning FROM field f JOIN entry e ON e.id = f.entry_id WHERE e.source_id = ? AND e.gone_at IS NULL AND f.gone_at IS NULL AND f.meaning <> ''", [$sourceId]) as $row) {
            $place = Row::text($row, 'schema_name')."\0".Row::text($row, 'entry_name');
            $name = Row::text($row, 'name');
            if (isset($pairs[$place])) {
                [$was, $is, $oldNames] = $pairs[$place];
                [$old, $new] = [$was->column($oldNames[$name] ?? $name), $is->column($name)];
                if (null !== $old && null !== $new) {
                    $this->note(Row::int($row, 'id'), Row::int($row, 'field'), 'meaning', Doubt::about(Row::text($row, 'meaning'), $old, $new));
                }
            }
            foreach (self::mentioned(Row::text($row, 'meaning'), $place, $mentions) as $reason) {
                $this->note(Row::int($row, 'id'), Row::int($row, 'field'), 'meaning', $reason);
            }
        }
    }

    /**
     * @param array<array-key, non-empty-list<array{string, ?string}>> $mentions
     *
     * @return list<string> the reasons of the words that a text names
     */
    private static function mentioned(string $text, string $place, array $mentions): array
    {
        if ('' === $text || [] === $mentions) {
            return [];
        }
        preg_match_all('/\w+/u', $text, $m);
        $words = array_fill_keys($m[0], true);
        $reasons = [];
        foreach (\count($mentions) < \count($words) ? array_keys($mentions) : array_keys(array_intersect_key($words, $mentions) + array_filter($mentions, static fn (int|string $word): bool => 1 === preg_match('/\W/u', (string) $word), \ARRAY_FILTER_USE_KEY)) as $word) {
            // A name of a few letters stands in any sentence by accident.
            if (mb_strlen((string) $word) < 4 || !Doubt::mentions($text, (string) $word)) {
                continue;
            }
            foreach ($mentions[$word] ?? [] as [$reason, $within]) {
                if (null === $within || $within === $place) {
                    $reasons[] = $reason;
                }
            }
        }

        return $reasons;
    }

    /**
     * @param list<array<string, mixed>> $items
     *
     * @return list<string> names that renamed entries and fields will have
     */
    private static function newNames(array $items): array
    {
        $names = [];
        foreach ($items as $item) {
            if ('renamed' === ($item['change'] ?? '')) {
                $names[] = self::text($item, 'name');
            }
            foreach (\is_array($item['columns'] ?? null) ? $item['columns'] : [] as $column) {
                if (\is_array($column) && 'renamed' === ($column['change'] ?? '')) {
                    $names[] = self::text($column, 'name');
                }
            }
        }

        return $names;
    }

    private function note(int $entry, ?int $field, string $property, ?string $reason): void
    {
        if (null === $reason) {
            return;
        }
        $known = $this->db->fetchOne('SELECT id FROM margin_note WHERE entry_id = ? AND field_id <=> ? AND property = ? AND reason = ? AND settled_at IS NULL', [$entry, $field, $property, $reason]);
        if (false === $known) {
            $this->db->executeStatement('INSERT INTO margin_note (entry_id, field_id, property, reason, made_at) VALUES (?, ?, ?, ?, UTC_TIMESTAMP())', [$entry, $field, $property, $reason]);
        }
    }

    /** @param array<mixed> $data */
    private static function text(array $data, string $key): string
    {
        $value = $data[$key] ?? '';

        return \is_string($value) ? $value : '';
    }
}
