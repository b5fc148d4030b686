<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What others know of the entries of a model, for its checks. */
final readonly class Known
{
    /**
     * @param array<string, string>                                            $personal FieldPlace::key() → why it is taken for personal
     * @param array<string, string>                                            $averaged FieldPlace::key() → how it came to be an average
     * @param array<string, string>                                            $ends     key of a ModelJoin → how its observed ends differ from what is stated
     * @param list<array{model: string, name: string, meaning: string, how: string}> $measures of other models
     */
    public function __construct(public array $personal = [], public array $averaged = [], public array $ends = [], public array $measures = [])
    {
    }
}
