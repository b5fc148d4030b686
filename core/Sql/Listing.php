<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\Body;
use Fasti\Core\Sql\Tree\Combined;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Select;
use Fasti\Core\Sql\Tree\Star;

/** The list of what a query gives, with the words by which each field is made. */
final readonly class Listing
{
    public function __construct(private Resolver $resolver, private Places $places)
    {
    }

    /**
     * @param list<string> $names that the fields have in the catalog, where it says so
     *
     * @return list<ReadField>
     */
    public function fields(Query $query, Block $block, array $names): array
    {
        $expressions = $this->expressions($query->body, \count($block->columns));
        $fields = [];
        foreach ($block->columns as $i => $column) {
            $fields[] = new ReadField(
                $names[$i] ?? $column->name,
                $this->resolver->typing->stored($column->type),
                $column->nullable,
                $expressions[$i] ?? $this->plain($column),
                $this->places->all($column->values),
                $this->places->all($column->conditions),
                null !== $column->direct && [$column->direct => true] === $column->values,
            );
        }

        return $fields;
    }

    /** @return array<int, string> by the number of the field; those that a star stands for are left out */
    private function expressions(Body $body, int $count): array
    {
        while ($body instanceof Query || $body instanceof Combined) {
            $body = $body instanceof Query ? $body->body : $body->left;
        }
        if (!$body instanceof Select) {
            return [];
        }
        $stars = array_filter(
            $body->items,
            static fn (Tree\Item $item): bool => $item->value instanceof Star || ($item->value instanceof Tree\Member && '*' === $item->value->name),
        );
        if (\count($stars) > 1) {
            return [];
        }
        $expressions = [];
        $at = 0;
        foreach ($body->items as $i => $item) {
            if (isset($stars[$i])) {
                // The others know their number from the end.
                $at = $count - (\count($body->items) - $i - 1);
                continue;
            }
            $expressions[$at++] = $this->written($item->value);
        }

        return $expressions;
    }

    private function written(Expression $expression): string
    {
        return substr($this->resolver->text, $expression->at, $expression->end - $expression->at);
    }

    private function plain(Meaning $column): string
    {
        return null === $column->direct ? $column->name : (string) \Fasti\Core\Catalog\FieldPlace::ofKey($column->direct);
    }
}
