<?php

declare(strict_types=1);

namespace Fasti\Bench\Real;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Wording\Naming;

/** The same schema as others would have written it: harder by one rule each, the same each time. */
final class Variants
{
    public const RULES = ['short', 'cut', 'prefix', 'ids', 'roles', 'language', 'composite'];
    /** Words of another language, as schemas of offices have them. */
    private const LANGUAGE = [
        'account' => 'konto', 'address' => 'adresse', 'amount' => 'betrag', 'author' => 'verfasser', 'bank' => 'bank', 'base' => 'basis',
        'category' => 'kategorie',
        'change' => 'aenderung', 'chat' => 'gespraech', 'city' => 'ort', 'class' => 'klasse', 'client' => 'kunde', 'code' => 'kuerzel',
        'comment' => 'bemerkung',
        'company' => 'firma', 'configuration' => 'einstellung', 'country' => 'land', 'currency' => 'waehrung', 'customer' => 'kunde', 'data' => 'daten',
        'date' => 'datum', 'device' => 'geraet', 'document' => 'beleg', 'domain' => 'bereich', 'employee' => 'mitarbeiter', 'entry' => 'eintrag',
        'event' => 'ereignis',
        'feature' => 'merkmal', 'field' => 'feld', 'file' => 'datei', 'game' => 'spiel', 'gene' => 'gen', 'group' => 'gruppe', 'history' => 'verlauf',
        'id' => 'nr', 'identifier' => 'kennung', 'image' => 'bild', 'invoice' => 'rechnung', 'item' => 'posten', 'job' => 'auftrag', 'journal' => 'buch',
        'key' => 'schluessel', 'kind' => 'art', 'language' => 'sprache', 'line' => 'zeile', 'link' => 'verweis', 'location' => 'stelle', 'log' => 'protokoll',
        'machine' => 'maschine', 'member' => 'mitglied', 'message' => 'nachricht', 'method' => 'verfahren', 'model' => 'modell', 'module' => 'baustein',
        'move' => 'buchung', 'name' => 'bezeichnung', 'node' => 'knoten', 'note' => 'notiz', 'number' => 'nummer', 'object' => 'gegenstand',
        'order' => 'bestellung',
        'organization' => 'verband', 'owner' => 'besitzer', 'parent' => 'ober', 'part' => 'teil', 'party' => 'partner', 'path' => 'pfad',
        'payment' => 'zahlung',
        'period' => 'zeitraum', 'person' => 'person', 'place' => 'platz', 'player' => 'spieler', 'price' => 'preis', 'product' => 'artikel',
        'production' => 'fertigung',
        'project' => 'vorhaben', 'purchase' => 'einkauf', 'record' => 'satz', 'reference' => 'bezug', 'report' => 'bericht', 'resource' => 'mittel',
        'result' => 'ergebnis',
        'role' => 'rolle', 'rule' => 'regel', 'sale' => 'verkauf', 'sample' => 'probe', 'scope' => 'umfang', 'sequence' => 'folge', 'session' => 'sitzung',
        'shipment' => 'lieferung',
        'site' => 'standort', 'source' => 'quelle', 'statement' => 'aussage', 'status' => 'stand', 'stock' => 'lager', 'subject' => 'thema',
        'symbol' => 'zeichen',
        'tag' => 'marke', 'tax' => 'steuer', 'template' => 'vorlage', 'term' => 'begriff', 'test' => 'pruefung', 'text' => 'text', 'time' => 'zeit',
        'title' => 'titel',
        'token' => 'merker', 'transaction' => 'vorgang', 'type' => 'typ', 'unit' => 'einheit', 'user' => 'benutzer', 'value' => 'wert', 'version' => 'fassung',
        'warehouse' => 'halle', 'work' => 'arbeit', 'worker' => 'arbeiter', 'year' => 'jahr',
    ];
    private const ROLES = ['main', 'other', 'first', 'last', 'from', 'to', 'old', 'new', 'source', 'target', 'origin', 'home', 'main'];

    public static function of(Catalog $catalog, string $rule): Catalog
    {
        return match ($rule) {
            'short' => self::renamed($catalog, self::keyed($catalog, self::withoutVowels(...))),
            'cut' => self::renamed($catalog, self::keyed($catalog, static fn (string $word): string => substr($word, 0, 4))),
            'prefix' => self::renamed($catalog, static fn (string $table, ?string $column): string => $column ?? self::prefixed($catalog, $table)),
            'ids' => self::renamed($catalog, self::otherIds($catalog)),
            'roles' => self::renamed($catalog, self::withRoles($catalog)),
            'language' => self::renamed($catalog, static fn (string $table, ?string $column): string => self::words($column ?? $table,
                static fn (string $word): string => self::LANGUAGE[$word] ?? self::LANGUAGE[rtrim($word, 's')] ?? $word)),
            'composite' => self::composed($catalog),
            default => throw new \InvalidArgumentException($rule),
        };
    }

    /** @param callable(string): string $shorten */
    private static function keyed(Catalog $catalog, callable $shorten): \Closure
    {
        $keyed = [];
        foreach ($catalog->tables as $table) {
            foreach ([...null === $table->primaryKey ? [] : $table->primaryKey->columns,
                ...array_merge([], ...array_map(static fn (ForeignKey $key): array => $key->columns, $table->foreignKeys))] as $column) {
                $keyed[$table->name][$column] = true;
            }
            foreach ($table->foreignKeys as $key) {
                foreach ($key->references->columns as $column) {
                    $keyed[$key->references->table][$column] = true;
                }
            }
        }

        return static fn (string $table, ?string $column): string => null === $column || !isset($keyed[$table][$column]) ? $column ?? $table
            : self::words($column, $shorten);
    }

    private static function withoutVowels(string $word): string
    {
        $short = substr($word, 0, 1).preg_replace('/[aeiou]/', '', substr($word, 1));

        return \strlen($word) > 3 && \strlen($short) > 1 ? $short : $word;
    }

    /**
     * Words written anew, in the same manner.
     *
     * @param callable(string): string $of
     */
    private static function words(string $name, callable $of): string
    {
        return (string) preg_replace_callback('/[A-Za-z][a-z]*|[A-Z]+(?![a-z])/', static function (array $m) use ($of): string {
            $word = strtolower($m[0]);
            $new = $of($word);

            return match (true) {
                $new === $word => $m[0],
                ctype_upper($m[0][0]) => ucfirst($new),
                default => $new,
            };
        }, $name);
    }

    private static function prefixed(Catalog $catalog, string $table): string
    {
        $first = [];
        foreach ($catalog->tables as $one) {
            $first[] = Naming::words($one->name)[0] ?? '';
        }
        $counts = array_count_values($first);
        $own = Naming::words($table)[0] ?? '';
        $often = ($counts[$own] ?? 0) >= 4;

        return match (true) {
            $often && 1 === preg_match('/^_?[A-Za-z]+_(.+)$/', $table, $m) && !self::is($catalog, $m[1]) => $m[1],
            $often => $table,
            default => 'app_'.$table,
        };
    }

    private static function is(Catalog $catalog, string $name): bool
    {
        return [] !== array_filter($catalog->tables, static fn (Table $table): bool => strtolower($table->name) === strtolower($name));
    }

    /** `id` in place of `table_id`, and back. */
    private static function otherIds(Catalog $catalog): \Closure
    {
        $keys = [];
        foreach ($catalog->tables as $table) {
            $leads = array_merge([], ...array_map(static fn (ForeignKey $key): array => $key->columns, $table->foreignKeys));
            $columns = $table->primaryKey->columns ?? [];
            if (1 === \count($columns) && !\in_array($columns[0], $leads, true)) {
                $new = match (true) {
                    1 === preg_match('/^_?id$/i', $columns[0]) => strtolower($table->name).'_id',
                    1 === preg_match('/id$/i', $columns[0]) => 'id',
                    default => $columns[0],
                };
                $keys[$table->name] = [$columns[0], null === $table->column($new) ? $new : $columns[0]];
            }
        }

        return static fn (string $table, ?string $column): string => null !== $column && $column === ($keys[$table][0] ?? null)
            ? $keys[$table][1] : $column ?? $table;
    }

    /** Roles before three of ten references, and in place of the thing in one of ten. */
    private static function withRoles(Catalog $catalog): \Closure
    {
        $roles = [];
        foreach ($catalog->tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $at = crc32($table->name.$key->columns[0]) % 10;
                if ($at < 4 && 1 === \count($key->columns) && !\in_array($key->columns[0], $table->primaryKey->columns ?? [], true)) {
                    $role = self::ROLES[crc32($key->columns[0].$table->name) % \count(self::ROLES)];
                    $words = Naming::words($key->columns[0]);
                    $new = $at < 3 || \count($words) < 2 ? $role.'_'.$key->columns[0] : $role.'_'.$words[\count($words) - 1];
                    $roles[$table->name][$key->columns[0]] = null === $table->column($new) && !\in_array($new, $roles[$table->name] ?? [], true)
                        ? $new : $key->columns[0];
                }
            }
        }

        return static fn (string $table, ?string $column): string => $roles[$table][$column ?? ''] ?? $column ?? $table;
    }

    /**
     * @param callable(string, ?string): string $new
     * @param non-empty-list<string>            $some
     *
     * @return non-empty-list<string>
     */
    private static function each(callable $new, string $table, array $some): array
    {
        return array_map(static fn (string $one): string => $new($table, $one), $some);
    }

    /** @param callable(string, ?string): string $new table, column → its new name; of the table itself where there is no column */
    private static function renamed(Catalog $catalog, callable $new): Catalog
    {
        return $catalog->with(tables: array_map(static fn (Table $table): Table => $table->with(
            name: $new($table->name, null),
            columns: array_map(static fn (Column $column): Column => $column->with(name: $new($table->name, $column->name)), $table->columns),
            primaryKey: null === $table->primaryKey ? null : new Key($table->primaryKey->name, self::each($new, $table->name, $table->primaryKey->columns)),
            uniqueKeys: array_map(static fn (Key $key): Key => new Key($key->name, self::each($new, $table->name, $key->columns)), $table->uniqueKeys),
            foreignKeys: array_map(static fn (ForeignKey $key): ForeignKey => new ForeignKey(
                $key->name, self::each($new, $table->name, $key->columns), new Reference(
                    $key->references->schema, $new($key->references->table, null), self::each($new, $key->references->table, $key->references->columns),
                ), $key->onDelete, $key->onUpdate,
            ), $table->foreignKeys),
            indexes: array_map(static fn (Index $index): Index => new Index($index->name, array_map(
                static fn (IndexPart $part): IndexPart => new IndexPart($new($table->name, $part->column), $part->length, $part->descending),
                $index->parts,
            ), $index->unique, $index->method, $index->comment, $index->where), $table->indexes),
            definition: null,
        ), $catalog->tables));
    }

    /** Every third table to which others lead by one field is told apart by a second one, which those others then have as well. */
    private static function composed(Catalog $catalog): Catalog
    {
        $chosen = [];
        foreach ($catalog->tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $to = $key->references->table;
                if (1 === \count($key->columns) && $to !== $table->name && 0 === crc32($to) % 3) {
                    $chosen[$to] = $key->references->columns;
                }
            }
        }
        $extra = static fn (string $table): string => (Naming::words($table)[0] ?? 'part').'_area';
        $tables = [];
        foreach ($catalog->tables as $table) {
            $own = $chosen[$table->name] ?? null;
            $columns = $table->columns;
            if (null !== $own && ($table->primaryKey->columns ?? []) === $own && null === $table->column($extra($table->name))) {
                $columns[] = new Column($extra($table->name), 'varchar(4)', false);
                $table = $table->with(primaryKey: new Key($table->primaryKey?->name, [...$own, $extra($table->name)]));
            } elseif (null !== $own) {
                unset($chosen[$table->name]);
            }
            $tables[] = $table->with(columns: $columns);
        }

        return $catalog->with(tables: array_map(static fn (Table $table): Table => self::leading($table, $chosen, $extra), $tables));
    }

    /**
     * @param array<string, list<string>> $chosen
     * @param callable(string): string    $extra
     */
    private static function leading(Table $table, array $chosen, callable $extra): Table
    {
        $columns = $table->columns;
        $keys = [];
        foreach ($table->foreignKeys as $key) {
            $to = $key->references->table;
            if (1 === \count($key->columns) && $key->references->columns === ($chosen[$to] ?? null) && $to !== $table->name) {
                $words = Naming::words($key->columns[0]);
                $role = \count($words) > 2 ? $words[0].'_' : '';
                $name = $role.$extra($to);
                if (null === $table->column($name)) {
                    $columns[] = new Column($name, 'varchar(4)', true);
                    $table = $table->with(columns: $columns);
                }
                $key = new ForeignKey($key->name, [...$key->columns, $name], new Reference($key->references->schema, $to,
                    [...$key->references->columns, $extra($to)]), $key->onDelete, $key->onUpdate);
            }
            $keys[] = $key;
        }

        return $table->with(foreignKeys: $keys);
    }
}
