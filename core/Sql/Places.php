<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\FieldPlace;

/** Places of fields by their keys. The same few are named over and over in a query: each is made once. */
final class Places
{
    /** @var array<string, FieldPlace> */
    private array $made = [];

    public function of(string $key): FieldPlace
    {
        return $this->made[$key] ??= FieldPlace::ofKey($key);
    }

    /**
     * @param array<string, true> $keys
     *
     * @return list<FieldPlace> in the order of their keys
     */
    public function all(array $keys): array
    {
        if (\count($keys) > 1) {
            ksort($keys, \SORT_STRING);
        }
        $places = [];
        foreach ($keys as $key => $true) {
            $places[] = $this->of((string) $key);
        }

        return $places;
    }
}
