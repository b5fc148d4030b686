<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;

/** An expression of a model that has been read: its tree, what it gives, and what it reads. */
final readonly class Formula
{
    /**
     * @param ?Expression        $tree   null where it is not understood
     * @param string             $unit   '' where there is none, or none is known
     * @param list<FieldUse>     $fields
     * @param list<FormulaFault> $faults
     * @param list<FormulaFault> $doubts it can be computed, but hardly means anything
     * @param string             $written the type as the catalog has it, of a field that stands alone
     */
    public function __construct(
        public string $text,
        public ?Expression $tree,
        public TypeFamily $family,
        public string $unit,
        public array $fields,
        public array $faults = [],
        public array $doubts = [],
        public string $written = '',
    ) {
    }

    /** Whether it gives none where what it reads is none: COALESCE, CASE and IS NULL may make a value of nothing. */
    public function isStrict(): bool
    {
        return null !== $this->tree && self::strict($this->tree);
    }

    private static function strict(Expression $node): bool
    {
        $parts = match (true) {
            $node instanceof Ref => [],
            $node instanceof Cast => [$node->value],
            $node instanceof Operation && 1 !== preg_match('/^(?:AND|OR|IS .*)$/', $node->sign) => $node->operands,
            $node instanceof Call && 'COALESCE' !== FormulaReader::function($node->names[\count($node->names) - 1]) => $node->arguments,
            default => null,
        };
        if (null === $parts) {
            return false;
        }
        foreach ($parts as $part) {
            if (!$part instanceof Literal && !$part instanceof RowOf && !self::strict($part)) {
                return false;
            }
        }

        return true;
    }

    /** The one field that it is, where it is no more. */
    public function field(): ?FieldUse
    {
        return $this->tree instanceof Ref && 1 === \count($this->fields) ? $this->fields[0] : null;
    }
}
