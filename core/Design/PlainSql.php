<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;
use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Node;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;

/**
 * Whether an expression that somebody wrote compares and computes with the fields of a row, and does nothing else: what it is put into is asked of a
 * source, which is reached with rights that whoever writes a design may not have.
 */
final class PlainSql
{
    private const FUNCTIONS = [
        'ABS', 'ANY', 'CEIL', 'CEILING', 'CHAR_LENGTH', 'COALESCE', 'CONCAT', 'DATE', 'DAY', 'EXTRACT', 'FLOOR', 'GREATEST', 'JSON_VALID', 'LEAST', 'LEFT',
        'LENGTH', 'LOWER', 'MOD', 'MONTH', 'NULLIF', 'OCTET_LENGTH', 'RIGHT', 'ROUND', 'SUBSTR', 'SUBSTRING', 'TRIM', 'UPPER', 'YEAR',
    ];

    public static function is(string $sql, ?Grammar $grammar): bool
    {
        try {
            $t = new Tokens($sql, $grammar ?? new Grammar());
            $tree = (new Parser($t))->expressions->expression();

            return $t->over() && self::all($tree);
        } catch (SqlFault) {
            return false;
        }
    }

    private static function all(mixed $node): bool
    {
        if ($node instanceof Node) {
            $known = match (true) {
                $node instanceof Call => \in_array(strtoupper(implode('.', $node->names)), self::FUNCTIONS, true),
                $node instanceof Ref => 1 === \count($node->names),
                default => $node instanceof Literal || $node instanceof Operation || $node instanceof CaseOf || $node instanceof Cast || $node instanceof RowOf
                    || $node instanceof ArrayOf,
            };
            if (!$known) {
                return false;
            }
        }
        foreach (match (true) {
            $node instanceof Node => get_object_vars($node),
            \is_array($node) => $node,
            default => [],
        } as $part) {
            if (($part instanceof Node || \is_array($part)) && !self::all($part)) {
                return false;
            }
        }

        return true;
    }
}
