<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Lineage\FurtherUses;
use Fasti\Lineage\Made;

/** Figures, attributes and kept trials of shared models, for whoever asks what is made from a field. */
final readonly class ModelUses implements FurtherUses
{
    private const WORDS = ['measure' => 'measure %s', 'attribute' => 'attribute %s', 'trial' => 'kept trial “%s”', 'key' => 'key of %s', 'join' => 'join %s'];

    public function __construct(private Models $models)
    {
    }

    public function of(array $fields): array
    {
        return array_map(static fn (array $uses): array => array_map(
            static fn (ModelUse $use): Made => new Made(self::words($use->kind, $use->part), $use->name, 'model', ['id' => $use->model]),
            $uses,
        ), $this->models->standingOn($fields));
    }

    public static function words(string $kind, string $part): string
    {
        return \sprintf(self::WORDS[$kind] ?? '%s', $part);
    }
}
