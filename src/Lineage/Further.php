<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/**
 * All that later rooms make from fields.
 *
 * @phpstan-type MadeOf array{words: string, of: string, route: string, parameters: array<string, int|string>, fields: list<int>}
 */
final readonly class Further
{
    /** @param iterable<FurtherUses> $uses */
    public function __construct(#[AutowireIterator(FurtherUses::class)] private iterable $uses)
    {
    }

    /**
     * @param list<int> $fields
     *
     * @return list<MadeOf> each once, with the fields that it is made from
     */
    public function of(array $fields): array
    {
        $all = [];
        foreach ([] === $fields ? [] : $this->uses as $uses) {
            foreach ($uses->of($fields) as $field => $made) {
                foreach ($made as $one) {
                    $key = $one['of']."\0".$one['words'];
                    $all[$key] ??= $one + ['fields' => []];
                    $all[$key]['fields'][] = $field;
                }
            }
        }

        return array_values($all);
    }
}
