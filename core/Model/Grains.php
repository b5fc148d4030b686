<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;

/**
 * At what grain the amounts of a measure stand. A field counts at the grain of the entry that it stands in: of a header, once, however many lines
 * it has. In an expression over lines it may be a factor or a divisor of what a line says of itself; alone, it would count once for each line.
 *
 * An amount is read as the roles that it is of, and what is wrongly put together in it: of a sum, or of what stands in place of another, the roles of
 * its parts, which have to be the same; of a product or a quotient, the finest of them. What only chooses (a condition) is none.
 *
 * @phpstan-type Amount array{list<string>, array{string, string}|null}
 */
final readonly class Grains
{
    public function __construct(private Ground $ground)
    {
    }

    public function of(Measure $measure): Grain
    {
        $formula = '' === trim($measure->expression) || !$measure->aggregation->needsNumbers() || null === $this->ground->roleNamed($measure->fact) ? null
            : $this->ground->formula($measure->fact, $measure->expression);
        if (null === $formula?->tree || [] !== $formula->faults) {
            return new Grain();
        }
        [$roles, $mixed] = $this->amount($formula->tree, $measure->fact);
        $elsewhere = [] === $roles || [$measure->fact] === $roles ? [] : $roles;
        $factors = [];
        foreach ([] === $elsewhere && null === $mixed ? $this->fields($formula->tree, $measure->fact) : [] as $role) {
            if ($role !== $measure->fact) {
                $factors[$role] = true;
            }
        }

        return new Grain($elsewhere, array_map(strval(...), array_keys($factors)), $mixed);
    }

    /** The role itself, or the fact, where each of its rows has one row of the fact at the most. */
    private function role(Ref $ref, string $fact): string
    {
        $names = \array_slice($ref->names, 0, -1);
        $role = [] === $names ? $fact : (string) $this->ground->roleNamed(implode('.', $names));

        return [] === $this->ground->ways()->between($role, $fact) ? $role : $fact;
    }

    /** @return Amount */
    private function amount(Expression $node, string $fact): array
    {
        $of = fn (Expression ...$parts): array => array_map(fn (Expression $part): array => $this->amount($part, $fact), array_values($parts));

        return match (true) {
            $node instanceof Ref => [[$this->role($node, $fact)], null],
            $node instanceof Cast => $this->amount($node->value, $fact),
            $node instanceof CaseOf => self::together($of(...self::results($node)), $fact),
            $node instanceof Operation && 1 === \count($node->operands) => $this->amount($node->operands[0], $fact),
            $node instanceof Operation && '*' === $node->sign => self::product($of(...$node->operands), $fact),
            $node instanceof Operation && \in_array($node->sign, ['/', '%'], true) => self::quotient($of(...$node->operands), $fact),
            $node instanceof Operation => self::together($of(...$node->operands), $fact),
            $node instanceof Call => $this->call($node, $fact),
            default => [[], null],
        };
    }

    /** @return list<Expression> */
    private static function results(CaseOf $node): array
    {
        return [...array_map(static fn (array $when): Expression => $when[1], $node->whens), ...null === $node->else ? [] : [$node->else]];
    }

    /** @return Amount */
    private function call(Call $call, string $fact): array
    {
        $name = FormulaReader::function($call->names[\count($call->names) - 1]);
        $parts = array_map(fn (Expression $part): array => $this->amount($part, $fact), $call->arguments);

        return match ($name) {
            'COALESCE', 'GREATEST', 'LEAST' => self::together($parts, $fact),
            'EXTRACT' => $parts[1],
            'MOD', 'POWER' => self::quotient($parts, $fact),
            // How a number is rounded, and what counts as none, are no amounts.
            default => $parts[0] ?? [[], null],
        };
    }

    /**
     * @param list<Amount> $parts
     *
     * @return Amount
     */
    private static function together(array $parts, string $fact): array
    {
        [$roles, $mixed] = self::all($parts);
        $others = array_values(array_diff($roles, [$fact]));
        if (null === $mixed && [] !== $others && \in_array($fact, $roles, true)) {
            $mixed = [$fact, $others[0]];
        }

        return [\in_array($fact, $roles, true) ? [$fact] : $roles, $mixed];
    }

    /**
     * What multiplies an amount of the fact is a rate, and may be put together of any.
     *
     * @param list<Amount> $parts
     *
     * @return Amount
     */
    private static function product(array $parts, string $fact): array
    {
        [$roles, $mixed] = self::all($parts);

        return \in_array([[$fact], null], $parts, true) ? [[$fact], null] : [\in_array($fact, $roles, true) ? [$fact] : $roles, $mixed];
    }

    /**
     * @param list<Amount> $parts
     *
     * @return Amount
     */
    private static function quotient(array $parts, string $fact): array
    {
        [$roles, $mixed] = self::all($parts);

        return [\in_array($fact, $roles, true) ? [$fact] : $roles, [[$fact], null] === $parts[0] ? null : $mixed];
    }

    /**
     * @param list<Amount> $parts
     *
     * @return Amount
     */
    private static function all(array $parts): array
    {
        $roles = [];
        $mixed = null;
        foreach ($parts as [$of, $wrong]) {
            $roles = [...$roles, ...$of];
            $mixed ??= $wrong;
        }

        return [array_values(array_unique($roles)), $mixed];
    }

    /** @return list<string> roles whose fields its value is made of, whatever chooses it */
    private function fields(Expression $node, string $fact): array
    {
        $parts = match (true) {
            $node instanceof Cast => [$node->value],
            $node instanceof CaseOf => self::results($node),
            $node instanceof Operation => $node->operands,
            $node instanceof Call => $node->arguments,
            default => [],
        };
        $own = $node instanceof Ref && [] !== array_filter($node->names) ? [$this->role($node, $fact)] : [];

        return [...$own, ...array_merge([], ...array_map(fn (Expression $part): array => $this->fields($part, $fact), $parts))];
    }
}
