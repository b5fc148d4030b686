<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Wording\Amount;

/** Which tables are facts, dimensions, links, code tables, logs or staging, by structure, joins and, where they are known, rows. */
final class Kinds
{
    private const STAGING = [
        'tmp',
        'temp',
        'stg',
        'staging',
        'stage',
        'import',
        'load',
        'raw',
        'bak',
        'backup',
        'scratch',
        'test',
        'dump',
        'landing',
        'work',
        'wrk',
    ];
    private const LOG = ['log', 'logs', 'audit', 'trace', 'journal', 'syslog', 'logging', 'logentry', 'auditing'];
    private const COPY = ['archive', 'archived', 'arch', 'old', 'closed', 'bak', 'copy', 'deleted', 'past'];
    private const HISTORY = ['history', 'hist', 'historic', 'version', 'versions', 'revision', 'audit', 'changes', 'log'];
    private const SMALL = 500;
    /** What programs keep of each row: when it was made and changed, and by whom. */
    private const KEPT_OF_ROWS = '/^(?:t_|row_|rec_)?(?:creat(?:e|ed|ion)|writ(?:e|ten)|(?:last_?)?(?:updat(?:e|ed)|modif(?:y|ied|ication)|chang(?:e|ed)'
        .'|edited)|insert(?:ed)?)(?:_?(?:at|on|by|date|time|datetime|timestamp|ts|uid|user|user_?id|by_?id))?$/i';

    private readonly Dialect $dialect;
    /** @var array<int, Table> */
    private array $tables = [];
    /** @var array<int, list<Link>> */
    private array $out = [];
    /** @var array<int, list<Link>> */
    private array $in = [];

    /**
     * @param list<Link>      $links between tables by their number in the catalog
     * @param array<int, int> $rows  of tables, where they are known
     */
    public function __construct(private readonly Catalog $catalog, array $links, private readonly array $rows = [])
    {
        $this->dialect = Dialects::ofCatalog($catalog);
        $this->tables = $catalog->tables;
        foreach ($links as $link) {
            // Who made a row and who changed it last is no part of what the row is about.
            if (1 !== preg_match(self::KEPT_OF_ROWS, $link->pairs[0][0] ?? '')) {
                $this->out[$link->from][] = $link;
            }
            $this->in[$link->to][] = $link;
        }
    }

    /** @return array<int, KindGuess> of tables that are no views, by their number */
    public function all(): array
    {
        $found = [];
        foreach ($this->catalog->tables as $i => $table) {
            if (!$table->kind->isView()) {
                [$kind, $reason, $more] = $this->kind($i, $table);
                $found[$i] = new KindGuess($kind, $reason, [...$more, ...$this->traits($i, $table)], $this->key($i, $table));
            }
        }

        return $found;
    }

    /** @return array{EntryKind, string, list<string>} */
    private function kind(int $i, Table $table): array
    {
        $out = array_values(array_filter($this->out[$i] ?? [], static fn (Link $link): bool => $link->from !== $link->to));
        $in = array_values(array_filter($this->in[$i] ?? [], static fn (Link $link): bool => $link->from !== $link->to));
        $own = $this->own($i, $table);
        $times = array_filter($table->columns, fn (Column $column): bool => TypeFamily::Time === $this->dialect->typeOf($column)->family
            && 1 !== preg_match(self::KEPT_OF_ROWS, $column->name));
        $measures = array_values(array_filter($own, fn (Column $column): bool => $this->measures($column)));
        $kind = $this->alone($table, $in, $out, [] !== $times, [] !== $measures) ?? $this->link($i, $table, $out, $own, $in);
        if (null === $kind && [] === $out && [] === $measures && [] === $times) {
            $kind = $this->code($i, $table, $in, $own);
        }
        $kind ??= $this->fact($i, $table, $in, $out, $measures, [] !== $times);
        if (null !== $kind) {
            return $kind;
        }
        if ([] !== $in) {
            $busiest = max(array_map(fn (Link $link): int => \count($this->in[$link->from] ?? []), $in));

            return [EntryKind::Dimension, self::leadHere($in).', '.(0 === $busiest ? 'from where rows are counted' : 'and from there on'), []];
        }

        return [EntryKind::Other, [] === $out ? 'nothing leads to it, and it leads nowhere' : 'nothing speaks for another kind', []];
    }

    /** @param non-empty-list<Link> $in */
    private static function leadHere(array $in): string
    {
        return Amount::of(\count($in), 'join').(1 === \count($in) ? ' leads' : ' lead').' here';
    }

    /**
     * What nothing leads to, by its name or because it has neither key nor joins.
     *
     * @param list<Link> $in
     * @param list<Link> $out
     *
     * @return array{EntryKind, string, list<string>}|null
     */
    private function alone(Table $table, array $in, array $out, bool $timed, bool $measured): ?array
    {
        if ([] !== $in) {
            return null;
        }
        $words = NameWords::of($table->name);
        foreach ([[EntryKind::Staging, self::STAGING], [EntryKind::Log, self::LOG]] as [$kind, $names]) {
            $said = array_intersect($words, $names);
            if ([] !== $said) {
                return [$kind, \sprintf('its name has “%s”, and nothing leads to it', implode(' ', $said)), []];
            }
        }
        if (null !== $table->primaryKey || [] !== $out) {
            return null;
        }

        $open = \count($table->columns) > 3 && [] === array_filter($table->columns, static fn (Column $column): bool => !$column->nullable);

        return match (true) {
            $timed && !$measured && \count($table->columns) > 2 => [EntryKind::Log, 'it has no key and no joins, but says when something happened', []],
            $open => [EntryKind::Staging, 'it has no key and no joins, and any of its fields may be empty', []],
            default => null,
        };
    }

    /**
     * A short table that others lead to, of a code and its label.
     *
     * @param list<Link>   $in
     * @param list<Column> $own
     *
     * @return array{EntryKind, string, list<string>}|null
     */
    private function code(int $i, Table $table, array $in, array $own): ?array
    {
        $rows = $this->rows[$i] ?? $table->rowEstimate;
        if ([] !== $in && 1 === \count($table->columns)) {
            return [EntryKind::Code, self::leadHere($in).', and it holds nothing but '.$table->columns[0]->name, []];
        }
        // People are no codes, however little is known of them.
        $words = NameWords::singular(NameWords::of($table->name));
        $times = array_filter($table->columns, fn (Column $column): bool => TypeFamily::Time === $this->dialect->typeOf($column)->family);
        if ([] !== $times || Standing::isOfPeople($table, $words) || NameWords::isDoer(\array_slice($words, -1))) {
            return null;
        }
        $label = array_values(array_filter($own, fn (Column $column): bool => TypeFamily::Text === $this->dialect->typeOf($column)->family));
        if ([] === $in || \count($table->columns) > 5 || [] === $label || ($rows ?? 0) > self::SMALL) {
            return null;
        }
        $labels = implode(', ', array_map(static fn (Column $column): string => $column->name, \array_slice($label, 0, 2)));

        return [EntryKind::Code, (null === $rows ? '' : Amount::of($rows, 'row').', ').self::leadHere($in).", and it holds little but $labels", []];
    }

    /**
     * What measures or happens, and leads to what it is about.
     *
     * @param list<Link>   $in
     * @param list<Link>   $out
     * @param list<Column> $measures
     *
     * @return array{EntryKind, string, list<string>}|null
     */
    private function fact(int $i, Table $table, array $in, array $out, array $measures, bool $timed): ?array
    {
        $rows = $this->rows[$i] ?? $table->rowEstimate;
        $ends = array_values(array_unique(array_map(static fn (Link $link): int => $link->to, $out)));
        if ([] === $measures && !$timed) {
            return null;
        }
        if (\count($ends) >= 2 && \count($in) <= \count($out) && \count($in) <= 3) {
            $names = array_map(static fn (Column $column): string => $column->name, \array_slice($measures, 0, 3));
            $what = [] === $measures ? 'and says when something happened' : 'and measures '.implode(', ', $names);
            $many = null !== $rows && $rows > 1000 ? ', in '.Amount::of($rows, 'row') : '';

            return [EntryKind::Fact, \sprintf('it leads to %s, %s%s', Amount::of(\count($ends), 'other table'), $what, $many), []];
        }
        if (1 === \count($ends) && [] === $in && \count($table->columns) > 2) {
            return [EntryKind::Fact, 'nothing leads to it, and it says what happened to '.$this->tables[$ends[0]]->name, []];
        }

        return null;
    }

    /**
     * @param list<Link>         $out
     * @param list<Column>       $own
     * @param list<Link>         $in
     *
     * @return array{EntryKind, string, list<string>}|null
     */
    private function link(int $i, Table $table, array $out, array $own, array $in): ?array
    {
        if (\count($out) < 2) {
            return null;
        }
        $leading = [];
        foreach ($out as $link) {
            foreach ($link->pairs as [$field]) {
                $leading[$field] = true;
            }
        }
        $primary = $table->primaryKey->columns ?? [];
        $between = [];
        foreach ([$primary, ...array_map(static fn ($key): array => $key->columns, $table->uniqueKeys)] as $columns) {
            if (\count($columns) >= 2 && [] === array_diff($columns, array_keys($leading))) {
                $between = $columns;
            }
        }
        $ends = array_values(array_unique(array_map(fn (Link $link): string => $this->tables[$link->to]->name, $out)));
        $words = NameWords::singular(NameWords::of($table->name));
        $named = \count(array_filter($ends, static fn (string $end): bool => [] !== array_intersect(NameWords::singular(NameWords::of($end)), $words)));
        $said = implode(' and ', \array_slice($ends, 0, 2));
        if ([] === $own && \count($out) <= 4) {
            return [EntryKind::Link, "it holds nothing but which of $said belong together", []];
        }
        if ([] !== $between && \count($ends) >= 2 && 2 === \count($out) && [] === $in && \count($own) <= 4) {
            return [EntryKind::Link, "its key is the pair of $said", ['with properties of its own']];
        }
        if ($named >= 2 && 2 === \count($out) && \count($own) <= 3) {
            return [EntryKind::Link, "it is named after $said", ['with properties of its own']];
        }

        return null;
    }

    /** @return list<Column> what belongs to its rows alone: no key that is numbered, no reference, no time of its making */
    private function own(int $i, Table $table): array
    {
        $leading = [];
        foreach ($this->out[$i] ?? [] as $link) {
            foreach ($link->pairs as [$field]) {
                $leading[$field] = true;
            }
        }
        $primary = $table->primaryKey->columns ?? [];

        return array_values(array_filter($table->columns, static fn (Column $column): bool => !isset($leading[$column->name]) && [$column->name] !== $primary
            && 1 !== preg_match(self::KEPT_OF_ROWS, $column->name) && 1 !== preg_match('/^(?:created|updated|modified|changed|inserted|last_?update)/i',
                $column->name)));
    }

    private function measures(Column $column): bool
    {
        $type = $this->dialect->typeOf($column);

        return $type->family->isNumeric() && !NameWords::isKeyEnding(NameWords::ending($column->name)) && !(1 === $type->length && null !== $type->bits)
            && 1 !== preg_match('/^(?:is|has|can)[_A-Z]|year|month|sort|rank|position|version|order/i', $column->name);
    }

    /** @return list<string> */
    private function traits(int $i, Table $table): array
    {
        $traits = [];
        foreach ($this->out[$i] ?? [] as $link) {
            if ($link->from === $link->to) {
                $traits['refers to itself'] = true;
            }
        }
        $words = NameWords::of($table->name);
        $schema = NameWords::of($table->schema);
        $marked = [] !== array_intersect([...$words, ...$schema], self::COPY) || [] !== array_filter(
            $words,
            static fn (string $word): bool => 1 === preg_match('/^(?:19|20)\d\d$/', $word),
        );
        $dated = [] !== array_intersect($words, self::HISTORY);
        if ($marked || $dated) {
            $names = array_map(static fn (Column $column): string => $column->name, $table->columns);
            foreach ($this->tables as $j => $other) {
                $theirs = NameWords::of($other->name);
                if ($j !== $i && !$other->kind->isView() && \count($theirs) < \count($words) + ($schema !== NameWords::of($other->schema) ? 1 : 0)
                    && [] === array_diff($theirs, $words) && $this->shares($names, $other)) {
                    $traits[($marked ? 'archive of ' : 'history of ').$other->name] = true;
                }
            }
        }

        return array_map(strval(...), array_keys($traits));
    }

    /** @param list<string> $names */
    private function shares(array $names, Table $other): bool
    {
        $same = 0;
        foreach ($other->columns as $column) {
            foreach ($names as $name) {
                if (0 === strcasecmp($name, $column->name) || str_starts_with(strtolower($column->name), strtolower($name).'_')) {
                    ++$same;
                    break;
                }
            }
        }

        return $same >= 2 && $same >= 0.5 * min(\count($names), \count($other->columns));
    }

    private function key(int $i, Table $table): string
    {
        $primary = $table->primaryKey->columns ?? [];
        if ([] === $primary) {
            return '';
        }
        $leading = [];
        foreach ($this->out[$i] ?? [] as $link) {
            foreach ($link->pairs as [$field]) {
                $leading[$field] = true;
            }
        }
        if ([] === array_diff($primary, array_keys($leading))) {
            return 1 === \count($primary) ? 'that of what it belongs to' : 'of what it links';
        }
        $column = $table->column($primary[0]);
        $type = null === $column ? null : $this->dialect->typeOf($column);
        if (1 === \count($primary) && null !== $column && null !== $type) {
            $numbered = $column->autoNumbered || TypeFit::isSpecial($type) || TypeFamily::Whole === TypeFit::family($type) && 1 === preg_match(
                '/(?:^|_|[a-z])(?:id|key|sk|oid)$/i',
                $column->name,
            )
                || TypeFamily::Text === $type->family && 36 === $type->length;

            return $numbered ? 'surrogate' : 'natural';
        }

        return 'natural';
    }
}
