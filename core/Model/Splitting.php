<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Sql\Tree\Ref;

/** A query over the rows of one role and what they lead to, for questions about attributes alone. */
final readonly class Splitting
{
    private AskSql $sql;

    public function __construct(private Ground $ground, private string $role)
    {
        $this->sql = $ground->sql();
    }

    /**
     * @param list<Level> $levels
     *
     * @return array{list<string>, string} their expressions, and what stands after SELECT …
     *
     * @throws ModelError where one is not understood, or is not reached by one route
     */
    public function of(array $levels): array
    {
        $joining = new Joining($this->ground, $this->sql, $this->role, true);
        $expressions = [];
        foreach ($levels as $level) {
            $attribute = $this->ground->model->attribute($level) ?? throw new ModelError(
                \sprintf('The model has no attribute “%s”.', ModelNames::full($level)),
            );
            $formula = $this->ground->formula($level->role, $attribute->expression);
            $routes = $this->ground->ways()->between($this->role, $level->role);
            if (null === $formula->tree || 1 !== \count($routes) || [] === $formula->fields) {
                throw new ModelError(\sprintf('“%s” is not understood, or %s does not lead to it by one route.', ModelNames::full($level), $this->role));
            }
            $expressions[] = $this->written($joining, $level->role, $routes[0], $formula);
        }

        return [$expressions, implode(' ', array_map(static fn (SqlLine $line): string => trim($line->text), $joining->lines('')))];
    }

    /** @param list<Way> $route */
    private function written(Joining $joining, string $role, array $route, Formula $formula): string
    {
        return (new FormulaSql($this->sql, function (Ref $ref) use ($joining, $role, $route): string {
            $names = $ref->names;
            $column = array_pop($names);
            $target = [] === $names ? $role : (string) $this->ground->roleNamed(implode('.', $names));
            $on = $target === $role ? []
                : ($this->ground->ways()->between($role, $target)[0] ?? throw new ModelError(\sprintf('No route leads from %s to %s.', $role, $target)));

            return $joining->field($joining->at([...$route, ...$on]), $this->ground->column($target, $column)->name ?? $column);
        }))->of($formula->tree ?? throw new \LogicException('It has been looked at.'));
    }

    /** Values of the one attribute that have more than one of the other. */
    public function exceptions(Level $fine, Level $coarse): string
    {
        [[$a, $b], $from] = $this->of([$fine, $coarse]);

        return "SELECT $a AS value, COUNT(DISTINCT $b) AS different, MIN($b) AS one, MAX($b) AS other $from WHERE $a IS NOT NULL "
            ."GROUP BY $a HAVING COUNT(DISTINCT $b) > 1";
    }

    /** How many rows have the one and not the other: such a hierarchy is ragged. */
    public function missing(Level $fine, Level $coarse): string
    {
        [[$a, $b], $from] = $this->of([$fine, $coarse]);

        return "SELECT COUNT(*) AS missing $from WHERE $a IS NOT NULL AND $b IS NULL";
    }

    /**
     * How deep rows of a role that refer to rows of it stand, and how many come back to themselves.
     *
     * @param list<string> $parent
     */
    public function depth(array $parent, int $most = 50): string
    {
        $role = $this->ground->role($this->role);
        $table = $this->sql->table($role->entry);
        $key = array_map($this->sql->name(...), $role->key);
        $up = array_map($this->sql->name(...), $parent);
        $k = array_map(static fn (int $i): string => "k$i", range(0, \count($key) - 1));
        $p = array_map(static fn (int $i): string => "p$i", range(0, \count($up) - 1));
        $on = implode(' AND ', array_map(static fn (string $name, string $of): string => "t.$name = above.$of", $key, $p));

        return 'WITH RECURSIVE above ('.implode(', ', [...$k, ...$p]).', deep) AS (SELECT '.self::listed($key, 't').', '.self::listed($up, 't')
            .", 1 FROM $table AS t UNION ALL SELECT "
            .self::listed($k, 'above').', '.self::listed($up, 't').", above.deep + 1 FROM above JOIN $table AS t ON $on WHERE above.deep < $most) "
            ."SELECT MAX(deep) AS deep, COUNT(DISTINCT CASE WHEN deep >= $most THEN $k[0] END) AS endless FROM above";
    }

    /** @param list<string> $names */
    private static function listed(array $names, string $of): string
    {
        return implode(', ', array_map(static fn (string $name): string => "$of.$name", $names));
    }
}
