<?php

declare(strict_types=1);

namespace Fasti\Bench\Mutants;

use PhpParser\Node;
use PhpParser\Node\Expr;
use PhpParser\Node\Expr\BinaryOp;
use PhpParser\Node\Stmt;
use PhpParser\NodeFinder;
use PhpParser\ParserFactory;

/**
 * The small mistakes that can be made in a file, by the operators of mutation analysis (DeMillo, Lipton and Sayward 1978; the choice of few kinds
 * that tell most is that of Offutt et al. 1996).
 */
final readonly class Mistakes
{
    public const KINDS = ['comparison', 'condition', 'constant', 'early return', 'arguments', 'dropped call'];
    private const COMPARED = [
        BinaryOp\Identical::class => '!==', BinaryOp\NotIdentical::class => '===', BinaryOp\Smaller::class => '<=', BinaryOp\SmallerOrEqual::class => '<',
        BinaryOp\Greater::class => '>=', BinaryOp\GreaterOrEqual::class => '>', BinaryOp\Equal::class => '!=', BinaryOp\NotEqual::class => '==',
    ];

    /** @return list<Mutant> */
    public static function in(string $file, string $code): array
    {
        $tree = (new ParserFactory())->createForHostVersion()->parse($code) ?? [];
        $found = [];
        foreach ((new NodeFinder())->find($tree, static fn (Node $node): bool => true) as $node) {
            foreach (self::of($node, $code) as [$kind, $from, $to, $by]) {
                $begin = (int) strrpos(substr($code, 0, $from), "\n");
                $end = strpos($code, "\n", $from);
                $found[] = new Mutant(
                    $file, substr_count($code, "\n", 0, $from) + 1, $kind, $from, $to - $from, $by, substr($code, $from, $to - $from),
                    trim(substr($code, $begin, (false === $end ? \strlen($code) : $end) - $begin)),
                );
            }
        }

        return $found;
    }

    /** @return list<array{string, int, int, string}> kind, first byte, the byte behind, what is put there */
    private static function of(Node $node, string $code): array
    {
        return [
            ...self::comparison($node, $code), ...self::condition($node, $code), ...self::constant($node, $code), ...self::leaving($node),
            ...self::arguments($node, $code), ...self::call($node),
        ];
    }

    /** @return list<array{string, int, int, string}> */
    private static function comparison(Node $node, string $code): array
    {
        if (!$node instanceof BinaryOp || !isset(self::COMPARED[$node::class])) {
            return [];
        }
        $sign = $node->getOperatorSigil();
        $from = strpos($code, $sign, $node->left->getEndFilePos() + 1);

        return false === $from || $from > $node->right->getStartFilePos() ? [] : [['comparison', $from, $from + \strlen($sign), self::COMPARED[$node::class]]];
    }

    /** @return list<array{string, int, int, string}> */
    private static function condition(Node $node, string $code): array
    {
        if ($node instanceof BinaryOp\BooleanAnd || $node instanceof BinaryOp\BooleanOr) {
            $from = strpos($code, $node->getOperatorSigil(), $node->left->getEndFilePos() + 1);

            return false === $from ? [] : [['condition', $from, $from + 2, '&&' === $node->getOperatorSigil() ? '||' : '&&']];
        }
        if ($node instanceof Expr\BooleanNot) {
            return [['condition', $node->getStartFilePos(), $node->expr->getStartFilePos(), '']];
        }
        $asks = $node instanceof Stmt\If_ || $node instanceof Stmt\ElseIf_ || ($node instanceof Expr\Ternary && null !== $node->if);
        if ($asks && !$node->cond instanceof BinaryOp
            && !$node->cond instanceof Expr\BooleanNot) {
            $from = $node->cond->getStartFilePos();
            $to = $node->cond->getEndFilePos() + 1;

            return [['condition', $from, $to, '!('.substr($code, $from, $to - $from).')']];
        }

        return [];
    }

    /** @return list<array{string, int, int, string}> */
    private static function constant(Node $node, string $code): array
    {
        if ($node instanceof Node\Scalar\Int_) {
            return [['constant', $node->getStartFilePos(), $node->getEndFilePos() + 1, (string) ($node->value + 1)]];
        }
        if ($node instanceof Node\Scalar\Float_) {
            return [['constant', $node->getStartFilePos(), $node->getEndFilePos() + 1, var_export($node->value * 1.5 + 0.1, true)]];
        }
        if ($node instanceof Expr\ConstFetch && \in_array($node->name->toLowerString(), ['true', 'false'], true)) {
            return [['constant', $node->getStartFilePos(), $node->getEndFilePos() + 1, 'true' === $node->name->toLowerString() ? 'false' : 'true']];
        }
        $strings = [];
        if ($node instanceof BinaryOp\Identical || $node instanceof BinaryOp\NotIdentical) {
            $strings = [$node->left, $node->right];
        } elseif ($node instanceof Node\MatchArm) {
            $strings = $node->conds ?? [];
        }
        $found = [];
        foreach ($strings as $string) {
            if ($string instanceof Node\Scalar\String_) {
                $found[] = ['constant', $string->getStartFilePos(), $string->getEndFilePos() + 1, '' === $string->value ? "'x'" : "''"];
            }
        }

        return $found;
    }

    /**
     * What an `if` or a loop leaves by, alone in its block.
     *
     * @return list<array{string, int, int, string}>
     */
    private static function leaving(Node $node): array
    {
        if (!$node instanceof Stmt\If_ || 1 !== \count($node->stmts)) {
            return [];
        }
        $only = $node->stmts[0];

        return $only instanceof Stmt\Return_ || $only instanceof Stmt\Continue_ || $only instanceof Stmt\Break_
            ? [['early return', $only->getStartFilePos(), $only->getEndFilePos() + 1, '']] : [];
    }

    /** @return list<array{string, int, int, string}> */
    private static function arguments(Node $node, string $code): array
    {
        if (!$node instanceof Expr\CallLike || $node->isFirstClassCallable()) {
            return [];
        }
        $found = [];
        $arguments = $node->getArgs();
        foreach ($arguments as $i => $argument) {
            $next = $arguments[$i + 1] ?? null;
            if (null === $next || $argument->unpack || $next->unpack || null !== $argument->name || null !== $next->name) {
                continue;
            }
            $a = $argument->getStartFilePos();
            $b = $argument->getEndFilePos() + 1;
            $c = $next->getStartFilePos();
            $d = $next->getEndFilePos() + 1;
            $swapped = substr($code, $c, $d - $c).substr($code, $b, $c - $b).substr($code, $a, $b - $a);
            // Of the least and the greatest of some the order says nothing.
            $ordered = !$node instanceof Expr\FuncCall || !$node->name instanceof Node\Name || !\in_array($node->name->toLowerString(), ['min', 'max'], true);
            if ($ordered && $swapped !== substr($code, $a, $d - $a)) {
                $found[] = ['arguments', $a, $d, $swapped];
            }
        }

        return $found;
    }

    /** @return list<array{string, int, int, string}> */
    private static function call(Node $node): array
    {
        return $node instanceof Stmt\Expression && $node->expr instanceof Expr\CallLike
            ? [['dropped call', $node->getStartFilePos(), $node->getEndFilePos() + 1, ';']] : [];
    }
}
