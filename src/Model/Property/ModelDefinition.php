<?php

declare(strict_types=1);

namespace Fasti\Model\Property;

use Fasti\Core\Model\Edits;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelLimits;
use Fasti\Model\KeptModel;
use Fasti\Text\BadText;
use Fasti\Text\Property;

/** Roles, joins, measures, hierarchies and choices of a model, as one JSON text, so that a change can be taken back whole. */
final class ModelDefinition extends Property
{
    public const NAME = 'definition';

    public function topic(): string
    {
        return 'model';
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return 'what it offers';
    }

    public function column(): string
    {
        return self::NAME;
    }

    public function most(): int
    {
        return 4000000;
    }

    public function inWords(string $before, string $after): string
    {
        $words = Edits::between(KeptModel::modelOf($before), KeptModel::modelOf($after));

        return [] === $words ? 'changed nothing that is told apart' : implode('; ', \array_slice($words, 0, 6)).(\count($words) > 6 ? ' …' : '');
    }

    public function check(string $value, int $id): void
    {
        if (!\is_array(json_decode($value, true))) {
            throw new BadText('What a model offers is kept as JSON, and this is none.');
        }
        try {
            ModelLimits::check(KeptModel::modelOf($value));
        } catch (ModelError $e) {
            throw new BadText($e->getMessage(), 0, $e);
        }
    }
}
