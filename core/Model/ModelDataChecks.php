<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Join\End;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** What the data says against a model: keys that stand twice, rows that lead nowhere, hierarchies with exceptions. */
final class ModelDataChecks
{
    /** @var list<ModelFinding> */
    private array $found = [];
    /** @var list<string> what could not be asked, in words */
    public array $notes = [];

    public function __construct(private readonly Ground $ground, private readonly Rows $source)
    {
    }

    /**
     * @return list<ModelFinding>
     *
     * @throws SourceError where the source is lost
     */
    public function all(Progress $progress): array
    {
        $work = [];
        foreach ($this->ground->model->roles as $role) {
            $unproven = '' === $role->like && [] !== $role->key && null !== $this->ground->table($role->name)
                && !$this->ground->unique($role->name, $role->key);
            if ($unproven) {
                $work["Are keys of $role->name unique"] = fn () => $this->key($role);
            }
        }
        foreach ($this->ground->model->joins as $join) {
            if (!$this->broken($join)) {
                $work['Does every row of '.$join->from.' lead to '.$join->to] = fn () => $this->join($join);
            }
        }
        foreach ($this->ground->model->hierarchies as $hierarchy) {
            $work["Is $hierarchy->name one"] = fn () => $this->hierarchy($hierarchy);
        }
        $done = 0;
        foreach ($work as $words => $ask) {
            $progress->at($words.'?', $done++, \count($work));
            try {
                $ask();
            } catch (SourceError $e) {
                if (SourceError::LOST === $e->what) {
                    throw $e;
                }
                $this->notes[] = $words.' was not found out: '.$e->inWords();
            } catch (ModelError $e) {
                $this->notes[] = $words.' was not found out: '.$e->getMessage();
            }
        }

        return $this->found;
    }

    private function broken(ModelJoin $join): bool
    {
        foreach ([[$join->from, $join->fields], [$join->to, $join->keys]] as [$role, $fields]) {
            foreach ($fields as $field) {
                if (null === $this->ground->roleNamed($role) || null === $this->ground->column($role, $field)) {
                    return true;
                }
            }
        }

        return false;
    }

    private function key(Role $role): void
    {
        $sql = $this->ground->sql();
        $names = array_map($sql->name(...), $role->key);
        $list = implode(', ', $names);
        $rows = "SELECT $list, COUNT(*) AS stands FROM ".$sql->table($role->entry).' WHERE '.implode(' IS NOT NULL AND ', $names)
            ." IS NOT NULL GROUP BY $list HAVING COUNT(*) > 1";
        $n = $this->number("SELECT COUNT(*) AS n FROM ($rows) AS x");
        if ($n > 0) {
            $this->found[] = new ModelFinding(
                'key-not-unique',
                Severity::Fault,
                $role->name,
                \sprintf('%s of “%s” %s more than once', 1 === $n ? 'One key' : number_format($n).' keys', $role->name, 1 === $n ? 'stands' : 'stand'),
                $this->doubledWhy($role->name),
                'Mend the data, or choose a key that tells rows apart.', $rows."\n".$sql->limited(20), $n);
        }
    }

    /** What is answered all the same, and what is not. */
    private function doubledWhy(string $role): string
    {
        $led = array_filter($this->ground->model->joins, static fn (ModelJoin $join): bool => $join->to === $role || $join->from === $role);
        $why = [];
        foreach ($led as $join) {
            $end = $join->to === $role ? $join->toEnd : $join->fromEnd;
            if (!$end->many()) {
                $why['led'] = 'What leads there would be counted once for each. Rows that are equal in what is asked for are taken once; a question for which '
                    .'they differ is not answered.';
            }
        }
        if ([] !== array_filter($this->ground->model->measures, static fn (Measure $measure): bool => $measure->fact === $role)) {
            $why['own'] = 'What is taken of it counts each of these rows: where one is a copy, figures are too great, and are answered all the same.';
        }

        return implode(' ', $why) ?: 'Nothing is asked of it yet.';
    }

    private function number(string $sql): int
    {
        foreach ($this->source->rows($sql) as $row) {
            return (int) ($row['n'] ?? 0);
        }

        return 0;
    }

    private function join(ModelJoin $join): void
    {
        $sql = $this->ground->sql();
        $name = static fn (string $of, string $column): string => $of.'.'.$sql->name($column);
        $on = implode(
            ' AND ',
            array_map(static fn (string $field, string $key): string => $name('t', $key).' = '.$name('f', $field), $join->fields, $join->keys),
        );
        $where = [] === $join->where ? '' : ' AND '.$name('f', $join->where[0]).' = '.$sql->text($join->where[1]);
        $missing = 'FROM '.$sql->table($this->ground->role($join->from)->entry).' AS f WHERE '
            .implode(' AND ', array_map(static fn (string $field): string => $name('f', $field).' IS NOT NULL', $join->fields)).$where
            .' AND NOT EXISTS (SELECT 1 FROM '.$sql->table($this->ground->role($join->to)->entry)." AS t WHERE $on)";
        $n = $this->number("SELECT COUNT(*) AS n $missing");
        $shown = array_unique([...$this->ground->role($join->from)->key, ...$join->fields]);
        $list = implode(', ', array_map(static fn (string $field): string => $name('f', $field), $shown));
        if ($n > 0) {
            $this->found[] = new ModelFinding(
                'leads-nowhere',
                Severity::Doubt,
                $join->key(),
                \sprintf(
                    '%s of “%s” %s to a row of “%s” that is not there',
                    1 === $n ? 'One row' : number_format($n).' rows',
                    $join->from,
                    1 === $n ? 'refers' : 'refer',
                    $join->to,
                ),
                'A plain join would drop them from every total. Questions here count them under none.',
                'Mend the data, or say what such rows mean.', "SELECT $list $missing\n".$sql->limited(20), $n);
        }
        if ([] === $join->where) {
            $empty = 'FROM '.$sql->table($this->ground->role($join->from)->entry).' AS f WHERE '.implode(
                ' OR ',
                array_map(static fn (string $field): string => $name('f', $field).' IS NULL', $join->fields),
            );
            $none = $this->number("SELECT COUNT(*) AS n $empty");
            if ($none > 0 && End::One === $join->toEnd) {
                $this->found[] = new ModelFinding(
                    'ends-differ',
                    Severity::Doubt,
                    $join->key(),
                    \sprintf(
                        '%s of “%s” %s to no “%s”, though each is stated to',
                        1 === $none ? 'One row' : number_format($none).' rows',
                        $join->from,
                        1 === $none ? 'leads' : 'lead',
                        $join->to,
                    ),
                    'What is stated of a join is what people trust.',
                    'State that there may be none, or mend the data.', "SELECT $list $empty\n".$sql->limited(20), $none);
            }
        }
    }

    private function hierarchy(Hierarchy $hierarchy): void
    {
        if ([] !== $hierarchy->parent) {
            $this->within($hierarchy);

            return;
        }
        foreach ($hierarchy->levels as $i => $fine) {
            $coarse = $hierarchy->levels[$i + 1] ?? null;
            if (null === $coarse) {
                continue;
            }
            $start = $this->start($fine->role, $coarse->role);
            $splitting = new Splitting($this->ground, $start);
            $rows = $splitting->exceptions($fine, $coarse);
            $n = $this->number("SELECT COUNT(*) AS n FROM ($rows) AS x");
            if ($n > 0) {
                $this->found[] = new ModelFinding(
                    'hierarchy-broken',
                    Severity::Fault,
                    $hierarchy->name,
                    \sprintf(
                        '%s of “%s” %s to more than one “%s”',
                        1 === $n ? 'One value' : number_format($n).' values',
                        $fine->attribute,
                        1 === $n ? 'belongs' : 'belong',
                        $coarse->attribute,
                    ),
                    'What is added up on one level does not agree with the next.',
                    'Mend the data, or take the level out of the hierarchy.', $rows."\n".$this->ground->sql()->limited(20), $n);
            }
            $missing = $hierarchy->ragged ? 0 : $this->number('SELECT missing AS n FROM ('.$splitting->missing($fine, $coarse).') AS x');
            if ($missing > 0) {
                $this->found[] = new ModelFinding(
                    'hierarchy-ragged',
                    Severity::Doubt,
                    $hierarchy->name,
                    \sprintf(
                        '%s with a “%s” %s no “%s”',
                        1 === $missing ? 'One row' : number_format($missing).' rows',
                        $fine->attribute,
                        1 === $missing ? 'has' : 'have',
                        $coarse->attribute,
                    ),
                    'A total on that level has a part under none.', 'Say that the hierarchy is ragged, or mend the data.', '', $missing);
            }
        }
    }

    /** A role whose rows lead to both by one route each: one of the two, or any. */
    private function start(string $one, string $other): string
    {
        $leads = fn (string $from): bool => 1 === \count($this->ground->ways()->between($from, $one)) && 1 === \count(
            $this->ground->ways()->between($from, $other),
        );
        foreach ([$one, $other, ...$this->ground->roleNames()] as $role) {
            if ($leads($role)) {
                return $role;
            }
        }
        throw new ModelError(\sprintf('no rows lead to both “%s” and “%s”', $one, $other));
    }

    private function within(Hierarchy $hierarchy): void
    {
        $role = $hierarchy->levels[0]->role ?? '';
        foreach ($this->source->rows((new Splitting($this->ground, $role))->depth($hierarchy->parent)) as $row) {
            if ((int) $row['endless'] > 0) {
                $this->found[] = new ModelFinding(
                    'hierarchy-endless',
                    Severity::Fault,
                    $hierarchy->name,
                    \sprintf(
                        '%s of “%s” %s back to where they began',
                        number_format((int) $row['endless']).' '.(1 === (int) $row['endless'] ? 'row' : 'rows'),
                        $role,
                        1 === (int) $row['endless'] ? 'leads' : 'lead',
                    ),
                    'There is no top to go up to.', 'Mend the data: one of the rows refers to one below itself.', '', (int) $row['endless']);
            }
        }
    }
}
