<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\House;

use PhpParser\Node;
use PhpParser\Node\Expr;
use PhpParser\Node\Stmt;
use PhpParser\NodeFinder;
use PhpParser\NodeTraverser;
use PhpParser\NodeVisitor\NameResolver;
use PhpParser\ParserFactory;

/** What the rules of the house ask of a file of PHP. Each is parsed once for all of them, and again only when it has changed. */
final class Facts
{
    /** Changes when this class says something else of the same file. */
    private const FORM = 5;

    /** @var array<string, self> */
    private static array $known = [];

    /**
     * @param list<string>                                                                                      $names   fully qualified, of classes and
     *     functions
     * @param list<array{name: string, line: int, lines: int, paths: int, arguments: int, constructs: bool}>    $methods paths: cyclomatic complexity
     *     (McCabe 1976)
     * @param list<array{int, string}>                                                                          $riddles line and what is there
     */
    public function __construct(public array $names, public array $methods, public array $riddles)
    {
    }

    /** @param string $path of a file that can be read */
    public static function of(string $path): self
    {
        return self::$known[$path] ??= self::kept($path);
    }

    public static function in(string $code): self
    {
        $tree = (new ParserFactory())->createForHostVersion()->parse($code) ?? [];
        $tree = (new NodeTraverser(new NameResolver()))->traverse($tree);
        $finder = new NodeFinder();
        $names = array_map(static fn (Node\Name $name): string => $name->toString(), $finder->findInstanceOf($tree, Node\Name\FullyQualified::class));

        return new self(array_values(array_unique($names)), self::methods($tree, $finder), self::riddles($tree, $finder));
    }

    private static function kept(string $path): self
    {
        $code = (string) file_get_contents($path);
        $folder = \dirname(__DIR__, 3).'/var/house';
        $file = $folder.'/'.self::FORM.hash('xxh128', $code).'.json';
        $kept = is_file($file) ? json_decode((string) file_get_contents($file), true) : null;
        if (\is_array($kept) && \is_array($kept['names'] ?? null) && \is_array($kept['methods'] ?? null) && \is_array($kept['riddles'] ?? null)) {
            /** @var array{names: list<string>, methods: list<array{name: string, line: int, lines: int, paths: int, arguments: int, constructs: bool}>,
             *     riddles: list<array{int, string}>} $kept */
            return new self($kept['names'], $kept['methods'], $kept['riddles']);
        }
        $facts = self::in($code);
        if (is_dir($folder) || @mkdir($folder, 0700, true) || is_dir($folder)) {
            file_put_contents($file, json_encode(['names' => $facts->names, 'methods' => $facts->methods, 'riddles' => $facts->riddles]), \LOCK_EX);
        }

        return $facts;
    }

    /**
     * @param Node[] $tree
     *
     * @return list<array{name: string, line: int, lines: int, paths: int, arguments: int, constructs: bool}>
     */
    private static function methods(array $tree, NodeFinder $finder): array
    {
        $found = [];
        foreach ($finder->find($tree, static fn (Node $node): bool => $node instanceof Stmt\ClassMethod || $node instanceof Stmt\Function_) as $method) {
            if (!$method instanceof Stmt\ClassMethod && !$method instanceof Stmt\Function_) {
                continue;
            }
            $found[] = [
                'name' => $method->name->toString(),
                'line' => $method->getStartLine(),
                // Between the braces: how many lines the arguments take says nothing of the work.
                'lines' => null === $method->stmts || [] === $method->stmts ? 0
                    : $method->stmts[array_key_last($method->stmts)]->getEndLine() - $method->stmts[0]->getStartLine() + 1,
                'paths' => 1 + \count($finder->find($method->stmts ?? [], self::forks(...))),
                'arguments' => \count($method->params),
                'constructs' => '__construct' === $method->name->toString(),
            ];
        }

        return $found;
    }

    private static function forks(Node $node): bool
    {
        return $node instanceof Stmt\If_ || $node instanceof Stmt\ElseIf_ || $node instanceof Stmt\For_ || $node instanceof Stmt\Foreach_
            || $node instanceof Stmt\While_
            || $node instanceof Stmt\Do_
            || ($node instanceof Stmt\Case_ && null !== $node->cond)
            || $node instanceof Stmt\Catch_
            || ($node instanceof Node\MatchArm && null !== $node->conds) || $node instanceof Expr\Ternary
            || $node instanceof Expr\BinaryOp\BooleanAnd || $node instanceof Expr\BinaryOp\BooleanOr || $node instanceof Expr\BinaryOp\LogicalXor;
    }

    /**
     * @param Node[] $tree
     *
     * @return list<array{int, string}>
     */
    private static function riddles(array $tree, NodeFinder $finder): array
    {
        $found = [];
        foreach ($finder->find($tree, static fn (Node $node): bool => true) as $node) {
            if ($node instanceof Stmt\Expression && ($node->expr instanceof Expr\BinaryOp\BooleanAnd || $node->expr instanceof Expr\BinaryOp\BooleanOr
                || $node->expr instanceof Expr\BinaryOp\LogicalAnd || $node->expr instanceof Expr\BinaryOp\LogicalOr)) {
                $found[] = [$node->getStartLine(), 'a condition that acts'];
            }
            // `a() ?: throw …` reads as it is.
            if ($node instanceof Stmt\Expression && $node->expr instanceof Expr\Ternary && !$node->expr->else instanceof Expr\Throw_) {
                $found[] = [$node->getStartLine(), 'a choice that acts'];
            }
            if ($node instanceof Expr\Assign && self::assignsApart($node, $finder)) {
                $found[] = [$node->getStartLine(), 'several things assigned at once'];
            }
            if ($node instanceof Expr\Ternary && [] !== array_filter([$node->cond, $node->if, $node->else], self::chooses(...))) {
                $found[] = [$node->getStartLine(), 'a choice within a choice'];
            }
        }

        return $found;
    }

    /** `a ?: b ?: c` reads as a list does. */
    private static function chooses(?Node $node): bool
    {
        return $node instanceof Expr\Ternary && null !== $node->if;
    }

    /** `[$a, $b] = [1, 2]`, which is neither a swap nor the taking apart of one result. */
    private static function assignsApart(Expr\Assign $node, NodeFinder $finder): bool
    {
        if (!$node->var instanceof Expr\List_ && !$node->var instanceof Expr\Array_ || !$node->expr instanceof Expr\Array_) {
            return false;
        }
        $variables = static fn (Expr $of): array => array_map(
            static fn (Node $each): string => $each instanceof Expr\Variable && \is_string($each->name) ? $each->name : '$',
            $finder->findInstanceOf([$of], Expr\Variable::class),
        );

        return [] === array_intersect($variables($node->var), $variables($node->expr));
    }
}
