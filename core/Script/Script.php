<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\Surroundings;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;

/** What a script makes, statement by statement: feed it statements, then ask for the catalog. */
final class Script
{
    /** First words of statements that say nothing about structure. */
    private const OF_NO_MATTER = [
        'INSERT', 'UPDATE', 'DELETE', 'REPLACE', 'MERGE', 'SELECT', 'VALUES', 'WITH', 'TABLE', 'TRUNCATE', 'COPY', 'LOAD', 'GRANT', 'REVOKE', 'DENY',
        'BEGIN', 'START',
        'COMMIT', 'ROLLBACK', 'SAVEPOINT', 'RELEASE', 'END', 'ABORT', 'LOCK', 'UNLOCK', 'ANALYZE', 'ANALYSE', 'VACUUM', 'OPTIMIZE', 'REPAIR',
        'CHECK', 'CHECKSUM',
        'FLUSH', 'RESET', 'SHOW', 'EXPLAIN', 'DESCRIBE', 'DESC', 'PRAGMA', 'REINDEX', 'CLUSTER', 'REFRESH', 'DISCARD', 'LISTEN', 'NOTIFY',
        'UNLISTEN', 'SECURITY',
        'CALL', 'DO', 'PREPARE', 'EXECUTE', 'EXEC', 'DEALLOCATE', 'HANDLER', 'KILL', 'PURGE', 'CACHE', 'CHANGE', 'STOP', 'XA', 'HELP', 'SIGNAL',
        'RESIGNAL', 'GET',
        'PRINT', 'DECLARE', 'IF', 'WHILE', 'RAISERROR', 'GO', 'PROMPT', 'WHENEVER', 'SPOOL', 'EXIT', 'QUIT', 'CHECKPOINT', 'CLOSE', 'FETCH', 'MOVE',
        'REASSIGN', 'IMPORT',
        'DBCC', 'BACKUP', 'RESTORE', 'BULK', 'WAITFOR', 'RETURN', 'CONNECT', 'DISCONNECT', 'AUDIT', 'NOAUDIT', 'SHUTDOWN', 'UNINSTALL', 'INSTALL',
        'BINLOG', 'DELIMITER',
        'SOURCE', 'REM', 'DEFINE', 'UNDEFINE', 'CLONE', 'FREEZE', 'THROW', 'UPSERT', 'ATTACH', 'DETACH', 'USE', 'SET',
    ];
    /** A program that makes structure by itself: what that is shows only when it runs. */
    private const MAKES = '/\b(?:CREATE|ALTER|DROP|RENAME)\s+(?:OR\s+REPLACE\s+|TEMP(?:ORARY)?\s+|UNIQUE\s+|MATERIALIZED\s+)*(?:TABLE|'
        .'VIEW|INDEX|TYPE|SCHEMA|SEQUENCE|TRIGGER|FUNCTION)\b/i';

    /** @var array<string, int> first words of statements that say nothing about structure → how many */
    public array $skipped = [];
    /** @var array<string, int> words of statements that were carried out → how many */
    public array $understood = [];
    private readonly Schemas $made;
    private readonly Creating $creating;
    private readonly Altering $altering;
    private readonly Dropping $dropping;
    private readonly Programs $programs;
    private readonly Types $types;
    private readonly Others $others;

    /** @param string $schema for objects whose schema neither the script nor the dialect says */
    public function __construct(private readonly Grammar $dialect, string $schema = '')
    {
        $this->made = new Schemas($dialect, $dialect->defaultSchema ?: $schema);
        $definitions = new Definitions($dialect, $this->made);
        $options = new Options($dialect, $this->made);
        $this->programs = new Programs($dialect, $this->made, $definitions);
        $this->types = new Types($dialect, $this->made, $definitions);
        $this->creating = new Creating($dialect, $this->made, $definitions, $this->programs, $this->types, $options);
        $this->dropping = new Dropping($dialect, $this->made);
        $this->altering = new Altering($dialect, $this->made, $definitions, $options, $this->dropping, new Renaming($dialect, $this->made));
        $this->others = new Others($dialect, $this->made);
    }

    /** Carries a statement out, and keeps what is not understood of it. */
    public function carry(string $text, int $line, bool $whole, Understanding $understanding): void
    {
        ++$understanding->count;
        $skipped = array_sum($this->skipped);
        try {
            $this->statement($text);
            if (!$whole && array_sum($this->skipped) === $skipped) {
                $understanding->noticed($line, 'The script breaks off within this statement');
            }
        } catch (SqlFault $e) {
            $understanding->fault($text, $line, $e, $whole);
        }
        foreach ($this->noticed() as $note) {
            $understanding->noticed($line, $note);
        }
    }

    /** A dump puts what cannot be made by a statement into the engine's own catalog. */
    private function ofTheCatalog(string $text): bool
    {
        $own = $this->dialect->catalog->ownTable;

        return '' !== $own && 1 === preg_match("/^\\s*INSERT\\s+INTO\\s+(?:$own)\\b/i", $text);
    }

    /** @throws SqlFault the statement could not be read; whatever it would have made is left out */
    public function statement(string $text): void
    {
        $word = 1 === preg_match('~^(?:\s|--[^\n]*|#[^\n]*|/\*.*?\*/|\()*([A-Za-z]+)~s', $text, $m) ? strtoupper($m[1]) : '';
        $structural = [
            'CREATE' => 1, 'ALTER' => 1, 'COMMENT' => 1, 'DROP' => 1, 'RENAME' => 1, 'USE' => 1, 'SET' => 1, 'RESET' => 1, 'SELECT' => 1, 'ATTACH' => 1,
            'EXEC' => 1,
        ];
        if (!isset($structural[$word])) {
            if ('INSERT' === $word && $this->ofTheCatalog($text)) {
                $this->kept($text);

                return;
            }
            if (!\in_array($word, self::OF_NO_MATTER, true)) {
                throw new SqlFault('' === $word ? 'A statement was expected' : \sprintf('Statements that begin with “%s” are not understood', $word), 0);
            }
            $this->ofNoMatter($word, $text);

            return;
        }
        $t = new Tokens($text, $this->dialect);
        if ('SELECT' === $word && '(' === $t->peek()) {
            $this->ofNoMatter($word, '');

            return;
        }
        $outcome = match (true) {
            $t->take('CREATE') => $this->creating->create($t),
            $t->take('ALTER') => $this->alter($t),
            $t->take('COMMENT', 'ON') => $this->others->comment($t, $this->programs),
            $t->take('RENAME') => $this->others->rename($t),
            $t->take('USE') => $this->made->inSchema($t->isName() ? $t->name() : (string) $t->text()) ? Outcome::Understood : Outcome::OfNoMatter,
            $t->take('SET') => $this->set($t),
            $t->take('RESET', 'SEARCH_PATH') => $this->made->searchPath([]) ? Outcome::Understood : Outcome::OfNoMatter,
            $t->take('SELECT') => $this->select($t, $text),
            $t->take('DROP') => $this->dropping->drop($t, $this->programs, $this->types),
            $t->take('ATTACH') => $this->attach($t),
            default => Outcome::OfNoMatter,
        };
        if (Outcome::OfNoMatter === $outcome) {
            $this->ofNoMatter($word, '');
        } else {
            $kind = $word.(\in_array($word, ['CREATE', 'ALTER', 'DROP', 'COMMENT'], true) ? ' '.$this->kind($t) : '');
            $this->understood[$kind] = ($this->understood[$kind] ?? 0) + 1;
        }
    }

    /** SQLite's shell writes a virtual table as a row of the catalog, whose last value is the statement that made it. */
    private function kept(string $text): void
    {
        $t = new Tokens($text, $this->dialect);
        $sql = null;
        while (!$t->over()) {
            $sql = $t->text() ?? $sql;
            $t->at += \in_array($t->kind(), [Lexer::TEXT], true) ? 0 : 1;
        }
        if (null !== $sql) {
            $this->statement($sql);
        }
    }

    /** @return list<string> what was noticed while the last statements were carried out */
    public function noticed(): array
    {
        $notes = $this->made->notes;
        $this->made->notes = [];

        return $notes;
    }

    private function kind(Tokens $t): string
    {
        foreach (\array_slice($t->words, 1, 12) as $word) {
            if (\in_array(
                $word,
                [
                    'TABLE', 'VIEW', 'INDEX', 'TRIGGER', 'FUNCTION', 'PROCEDURE', 'AGGREGATE', 'TYPE', 'DOMAIN', 'SEQUENCE', 'SCHEMA', 'DATABASE', 'POLICY',
                    'EXTENSION', 'COLUMN', 'CONSTRAINT',
                ],
                true,
            )) {
                return $word;
            }
        }

        return 'OTHER';
    }

    private function ofNoMatter(string $word, string $text): void
    {
        if (\in_array($word, ['DO', 'EXECUTE', 'EXEC', 'PREPARE', 'BEGIN', 'DECLARE', 'IF'], true) && 1 === preg_match(self::MAKES, $text, $m)) {
            throw new SqlFault('This program makes or changes structure when it runs; what comes of that is not known', (int) strpos($text, $m[0]));
        }
        $this->skipped[$word] = ($this->skipped[$word] ?? 0) + 1;
    }

    private function alter(Tokens $t): Outcome
    {
        $from = $t->at;
        $t->any('FOREIGN', 'ONLINE', 'OFFLINE');
        $t->take('IGNORE');

        if ($t->take('TABLE')) {
            return $this->altering->table($t);
        }
        $t->at = $from;

        return $this->others->alter($t, $this->programs, $this->types, $this->creating, $this->altering);
    }

    private function set(Tokens $t): Outcome
    {
        $t->any('LOCAL', 'SESSION', 'GLOBAL');
        if ($t->take('SEARCH_PATH') || $t->take('SCHEMA')) {
            $t->any('=', 'TO');

            return $this->made->searchPath($this->names($t)) ? Outcome::Understood : Outcome::OfNoMatter;
        }
        if ($this->dialect->queries->charsetTexts && 1 === preg_match('/\bsql_mode\b/i', $t->text) && !str_contains($t->text, '@OLD')) {
            // Within this mode, quotation marks are for names.
            $this->dialect->signs->doubleQuotedTexts = 1 !== preg_match('/\bANSI(?:_QUOTES)?\b/i', (string) preg_replace('/@@?\w+/', '', $t->text));
        }

        return Outcome::OfNoMatter;
    }

    /** @return list<string> */
    private function names(Tokens $t): array
    {
        $names = [];
        while (!$t->over()) {
            $text = $t->text();
            if (null !== $text) {
                $names = [...$names, ...array_map(static fn (string $name): string => trim($name, ' "'), explode(',', $text))];
            } elseif ($t->isName()) {
                $name = $t->name();
                if ('DEFAULT' !== strtoupper($name)) {
                    $names[] = $name;
                }
            } else {
                $t->skip();
            }
        }

        return $names;
    }

    private function select(Tokens $t, string $text): Outcome
    {
        if (1 === preg_match("/set_config\\(\\s*'search_path',\\s*'([^']*)'/", $text, $m)) {
            return $this->made->searchPath(array_map(static fn (string $name): string => trim($name, ' "'), explode(',', $m[1])))
                ? Outcome::Understood
                : Outcome::OfNoMatter;
        }
        if ($this->dialect->structure->selectsInto) {
            $depth = 0;
            for ($i = $t->at; '' !== $t->kind($i - $t->at); ++$i) {
                $word = $t->words[$i];
                $depth += ['(' => 1, ')' => -1][$word] ?? 0;
                if (0 === $depth && 'INTO' === $word) {
                    $into = $t->offsets[$i];
                    $t->at = $i + 1;
                    $temporary = '' !== $t->any('TEMP', 'TEMPORARY');
                    $t->any('UNLOGGED');
                    $t->any('TABLE');
                    $from = $t->offset();
                    $t->qualified();
                    $place = substr($text, $from, $t->ended() - $from);
                    $query = rtrim(substr($text, 0, $into)).' '.substr($text, $t->ended());
                    $create = new Tokens(($temporary ? 'TEMP ' : '').'TABLE '.$place.' AS '.$query, $this->dialect);

                    return $this->creating->create($create);
                }
            }
        }

        return Outcome::OfNoMatter;
    }

    private function attach(Tokens $t): Outcome
    {
        while (!$t->over()) {
            if ($t->take('AS')) {
                $this->made->attached[strtolower($t->text() ?? $t->name())] = true;
                break;
            }
            $t->skip();
        }

        return Outcome::OfNoMatter;
    }

    /**
     * Tables that were read elsewhere, to which those of the script may refer.
     *
     * @param array<string, Table> $tables by name
     */
    public function beside(array $tables): void
    {
        $this->made->beside = $tables;
    }

    /** @param list<string> $notes */
    public function catalog(array $notes, string $server): Catalog
    {
        $this->partitions();
        $finishing = new Finishing($this->dialect, $this->made);
        foreach ($this->made->tables as $schema => $tables) {
            foreach ($tables as $name => $table) {
                if ($this->made->isPartition($table) || $this->made->isShadow($table)) {
                    unset($this->made->tables[$schema][$name]);
                    continue;
                }
                $finishing->table($table);
            }
        }
        $result = $said = [];
        ksort($this->made->tables, \SORT_STRING);
        foreach ($this->made->tables as $tables) {
            ksort($tables, \SORT_STRING);
            foreach ($tables as $table) {
                $said[$table->key()] = $table;
                $result[] = $table->table($this->made->primaryOf(...));
                foreach ($table->kind->isView() ? [] : $this->missing($table) as $note) {
                    $notes[] = $note;
                }
            }
        }
        $whole = new Catalog($this->dialect->engine, $server, [...$result, ...array_values($this->made->beside)], $this->routines());

        return $whole->with(tables: $this->viewed($result, new Readings($whole, $this->dialect), $said, $notes), notes: $notes);
    }

    private function partitions(): void
    {
        foreach ($this->made->partitions as $partition => $top) {
            while (isset($this->made->partitions[$top])) {
                $top = $this->made->partitions[$top];
            }
            [$schema, $name] = explode("\0", $top);
            if (isset($this->made->tables[$schema][$name]) && !\in_array($partition, $this->made->partitions, true)) {
                ++$this->made->tables[$schema][$name]->partitions;
            }
        }
    }

    /** @return list<string> references of a table to what is not there */
    private function missing(TableBuilder $table): array
    {
        $notes = [];
        foreach ($table->foreign as $foreign) {
            $schema = $foreign['schema'] ?? $table->schema;
            if (null === $this->made->find($schema, $foreign['table']) && !isset($this->made->beside[$foreign['table']])) {
                $notes[] = \sprintf('%s refers to a table “%s” that is not there.', $table->name, ('' === $schema ? '' : $schema.'.').$foreign['table']);
            }
        }

        return $notes;
    }

    /** @return list<Routine> in the order of the engine's catalog */
    private function routines(): array
    {
        $routines = array_map(function (RoutineBuilder $routine): Routine {
            if ($this->dialect->structure->triggersCall && 1 === preg_match('/^RETURN\s+(.+)$/is', (string) $routine->body, $m)) {
                $columns = [];
                foreach ($routine->parameters as $i => $parameter) {
                    $columns['$'.($i + 1)] = $parameter['type'];
                    $columns[$parameter['name']] = $parameter['type'];
                }
                $routine->body = 'RETURN '.$this->dialect->expression(rtrim($m[1], "; \n\t"), new Surroundings($columns));
            }

            return $routine->routine($this->dialect->parameters($routine->parameters, $routine->kind));
        }, $this->made->routines);
        usort($routines, static fn (Routine $a, Routine $b): int => [$a->schema, $a->name] <=> [$b->schema, $b->name]);

        return $routines;
    }

    /**
     * @param list<Table>                 $tables
     * @param array<string, TableBuilder> $said   by the key of their place
     * @param list<string>                $notes
     *
     * @return list<Table> in which views have the columns that follow from their queries
     */
    private function viewed(array $tables, Readings $readings, array $said, array &$notes): array
    {
        // What an expression gives has no type in SQLite, so none is missing there.
        $typed = !$this->dialect->catalog->rowids;

        return array_map(static function (Table $table) use ($readings, $said, $typed, &$notes): Table {
            if (!$table->kind->isView()) {
                return $table;
            }
            $of = $said[$table->place()->key()];
            $columns = [];
            foreach ($readings->columnsOf($table) as $column) {
                $name = $of->renamed[$column->name] ?? $column->name;
                $columns[] = $column->with(name: $name, comment: $of->said[$name] ?? $column->comment);
            }
            foreach ($readings->of($table)->unknown as $unknown) {
                $notes[] = \sprintf('The view %s: %s.', $table->name, rtrim($unknown->what, '.'));
            }
            $without = array_filter($columns, static fn (Column $column): bool => $typed && '' === $column->type);
            if ([] !== $without) {
                $names = implode(', ', array_map(static fn (Column $column): string => $column->name, $without));
                $notes[] = \sprintf('The view %s: of %s the type is not known, since it does not follow from the query.', $table->name, $names);
            }

            return $table->with(columns: $columns);
        }, $tables);
    }
}
