<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/** All that later rooms make from fields. */
final readonly class Further
{
    /** @param iterable<FurtherUses> $uses */
    public function __construct(#[AutowireIterator(FurtherUses::class)] private iterable $uses)
    {
    }

    /**
     * @param list<int> $fields
     *
     * @return list<Made> each once, with the fields that it is made from
     */
    public function of(array $fields): array
    {
        $all = $from = [];
        foreach ([] === $fields ? [] : $this->uses as $uses) {
            foreach ($uses->of($fields) as $field => $made) {
                foreach ($made as $one) {
                    $key = $one->of."\0".$one->words;
                    $all[$key] ??= $one;
                    $from[$key][] = $field;
                }
            }
        }

        return array_map(
            static fn (Made $one, array $fields): Made => new Made($one->words, $one->of, $one->route, $one->parameters, $fields),
            array_values($all),
            array_values($from),
        );
    }
}
